import { prepare } from '#core/contacts/comparing.ts';
import { compareReady, type Verdict } from '#core/contacts/match.ts';
import { first, insert, type Queries } from '../db/database.ts';
import type { App, Work } from '../http/app.ts';
import { readMatching } from './model.ts';
import { candidatesByKeys, readCandidates } from './store.ts';

const ordered = (a: string, b: string): [string, string] => (a < b ? [a, b] : [b, a]);

function pairRow(w: Pick<Work, 'app' | 'now'>, contactId: string, verdict: Verdict, foundBy: string) {
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

/**
 * Compares every contact with those it shares a key with, in the background, a few hundred at a time. Open pairs are
 * weighed again; decided ones stay decided.
 */
export async function findPairs(app: App): Promise<Looking> {
  const before = lookingOf(app);
  if (before.running) return before;
  const all = (await first<{ n: number }>(
    app.db,
    'select count(*)::int as n from contacts where merged_into is null',
  ))!.n;
  const state: Looking = { running: true, done: 0, all, found: 0 };
  looking.set(app, state);
  try {
    await app.db.query("delete from pairs where state = 'open'");
    const { model, thresholds } = await readMatching({ app, tx: app.db });
    let after = '00000000-0000-0000-0000-000000000000';
    for (;;) {
      const ids = (
        await app.db.query<{ id: string }>(
          'select id from contacts where merged_into is null and id > $1 order by id limit 300',
          [after],
        )
      ).map((r) => r.id);
      if (!ids.length) break;
      after = ids.at(-1)!;
      state.found += await pairsAmong(app, ids, (a, b) => compareReady(a, b, model, thresholds));
      state.done += ids.length;
      // Requests come first.
      await new Promise((resolve) => setImmediate(resolve));
    }
  } finally {
    state.running = false;
  }
  return state;
}

async function pairsAmong(
  app: App,
  ids: readonly string[],
  compare: (a: ReturnType<typeof prepare>, b: Parameters<typeof compareReady>[1]) => Verdict,
): Promise<number> {
  const keys = await app.db.query<{ key: string; contactId: string }>(
    'select key, contact_id from contact_keys where contact_id = any($1)',
    [ids],
  );
  const candidates = (await candidatesByKeys(app.db, [...new Set(keys.map((k) => k.key))])).map((c) => ({
    ready: prepare(c),
    keys: c.keys,
  }));
  const byKey = new Map<string, typeof candidates>();
  for (const c of candidates) for (const key of c.keys) byKey.set(key, [...(byKey.get(key) ?? []), c]);
  const keysOfId = new Map<string, string[]>();
  for (const { key, contactId } of keys) keysOfId.set(contactId, [...(keysOfId.get(contactId) ?? []), key]);
  const rows: object[] = [];
  for (const own of await readCandidates(app.db, ids)) {
    const ready = prepare(own);
    const others = new Set((keysOfId.get(own.id) ?? []).flatMap((k) => byKey.get(k) ?? []));
    for (const other of others) {
      if (other.ready.of.id <= own.id) continue;
      const verdict = compare(ready, other.ready);
      if (verdict.outcome === 'same' || verdict.outcome === 'look')
        rows.push(pairRow({ app, now: app.clock.now() }, own.id, verdict, 'comparing all contacts'));
    }
  }
  await insert(app.db, 'pairs', rows, 'on conflict do nothing');
  return rows.length;
}

/** Forgets open pairs of contacts that are no longer there to compare. */
export const dropPairsOf = (tx: Queries, contactId: string) =>
  tx.query("delete from pairs where state = 'open' and (contact_a = $1 or contact_b = $1)", [contactId]);
