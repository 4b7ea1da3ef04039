import { keysOf, prepare, worthComparing } from '#core/contacts/comparing.ts';
import { compareReady, type Verdict } from '#core/contacts/match.ts';
import { commonIn } from '#core/contacts/weights.ts';
import type { App, Work } from '../app/app.ts';
import { first, insert, type Queries } from '../db/database.ts';
import { KnownContacts } from './known.ts';
import { estimateModel, readMatching } from './model.ts';
import { readCandidates } from './store.ts';

const ordered = (a: string, b: string): [string, string] => (a < b ? [a, b] : [b, a]);

export function pairRow(w: Pick<Work, 'app' | 'now'>, contactId: string, verdict: Verdict, foundBy: string) {
  const [contactA, contactB] = ordered(contactId, verdict.candidateId);
  return {
    id: w.app.ids.id(),
    contactA,
    contactB,
    probability: verdict.probability,
    outcome: verdict.outcome,
    findings: verdict.findings,
    held: verdict.held,
    state: 'open',
    foundBy,
    foundAt: w.now,
  };
}

/** Puts two contacts that may be one person up for a decision. A pair that was decided is never asked again. */
export async function recordPair(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  contactId: string,
  verdict: Verdict,
  foundBy: string,
): Promise<void> {
  if (contactId === verdict.candidateId) return;
  await insert(w.tx, 'pairs', pairRow(w, contactId, verdict, foundBy), 'on conflict do nothing');
}

/** How far a search for pairs is. */
export interface Looking {
  running: boolean;
  done: number;
  all: number;
  found: number;
}
const looking = new WeakMap<App, Looking>();
export const lookingOf = (app: App): Looking =>
  looking.get(app) ?? { running: false, done: 0, all: 0, found: 0 };

/** Does a search that nobody began already; from the first moment on it is said to be under way. */
async function look(app: App, search: (state: Looking) => Promise<void>): Promise<Looking> {
  const before = lookingOf(app);
  if (before.running) return before;
  const state: Looking = { running: true, done: 0, all: 0, found: 0 };
  looking.set(app, state);
  try {
    await search(state);
  } finally {
    state.running = false;
  }
  return state;
}

/**
 * Compares every contact with those it shares a key with, in the background, a few hundred at a time. Open pairs are
 * weighed again; decided ones stay decided.
 */
export const findPairs = (app: App): Promise<Looking> => look(app, (state) => compareAll(app, state));

/** The same, by what the decisions so far teach. */
export const findPairsAnew = (app: App): Promise<Looking> =>
  look(app, async (state) => {
    await estimateModel(app);
    await compareAll(app, state);
  });

async function compareAll(app: App, state: Looking): Promise<void> {
  state.all = (await first<{ n: number }>(
    app.db,
    'select count(*)::int as n from contacts where merged_into is null',
  ))!.n;
  await app.db.query("delete from pairs where state = 'open'");
  const { model, thresholds } = await readMatching({ app, tx: app.db });
  const known = new KnownContacts();
  const isCommon = commonIn(model);
  let after = '00000000-0000-0000-0000-000000000000';
  for (;;) {
    const ids = (
      await app.db.query<{ id: string }>(
        'select id from contacts where merged_into is null and id > $1 order by id limit 300',
        [after],
      )
    ).map((r) => r.id);
    if (!ids.length) return;
    after = ids.at(-1)!;
    state.found += await pairsAmong(app, known, ids, (a, b) =>
      worthComparing(a, b, isCommon) ? compareReady(a, b, model, thresholds) : null,
    );
    state.done += ids.length;
    // Requests come first.
    await new Promise((resolve) => setImmediate(resolve));
  }
}

async function pairsAmong(
  app: App,
  known: KnownContacts,
  ids: readonly string[],
  compare: (a: ReturnType<typeof prepare>, b: Parameters<typeof compareReady>[1]) => Verdict | null,
): Promise<number> {
  const people = (await readCandidates(app.db, ids)).map((c) => prepare(c));
  const keys = people.map(keysOf);
  await known.fetch(app.db, keys.flat());
  const rows: object[] = [];
  for (const [at, own] of people.entries())
    for (const other of known.sharing(keys[at]!)) {
      if (other.of.id <= own.of.id) continue;
      const verdict = compare(own, other);
      if (verdict && (verdict.outcome === 'same' || verdict.outcome === 'look'))
        rows.push(pairRow({ app, now: app.clock.now() }, own.of.id, verdict, 'comparing all contacts'));
    }
  await insert(app.db, 'pairs', rows, 'on conflict do nothing');
  return rows.length;
}

/** Forgets open pairs of contacts that are no longer there to compare. */
export const dropPairsOf = (tx: Queries, contactId: string) =>
  tx.query("delete from pairs where state = 'open' and (contact_a = $1 or contact_b = $1)", [contactId]);
