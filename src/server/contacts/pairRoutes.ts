import type { Pair, PairSide, pairsContract } from '#contract/pairs.ts';
import { weightOf } from '#core/contacts/keeping.ts';
import { onShift } from '#core/crew/states.ts';
import { came } from '#core/doors/attendance.ts';
import { audit, type Work } from '../app/app.ts';
import { among } from '../db/among.ts';
import { first, type Queries, update } from '../db/database.ts';
import type { Handlers } from '../http/handle.ts';
import { conflict, invalid, notFound } from '../http/problem.ts';
import { textColumns } from './columns.ts';
import { householdOf } from './linking.ts';
import { type Chosen, mergeContacts, unmerge } from './merging.ts';
import { estimateModel, readMatching, setThresholds } from './model.ts';
import { findPairs, lookingOf } from './pairs.ts';

interface PairRow extends Omit<Pair, 'a' | 'b'> {
  contactA: string;
  contactB: string;
  state: string;
}
const pairColumns = 'id, contact_a, contact_b, probability, outcome, held, found_by, findings, state';

const readSides = (tx: Queries, ids: readonly string[]): Promise<PairSide[]> =>
  tx.query<PairSide>(
    `select c.id, given_name as given, family_name as family, birth_date, street, postal_code, language, ${textColumns('c')}, do_not_contact,
       household_id is not null as household, source, created_at,
       coalesce((select array_agg(email order by position, id) from contact_emails where contact_id = c.id), '{}') as emails,
       coalesce((select array_agg(phone order by position, id) from contact_phones where contact_id = c.id), '{}') as phones,
       (select count(*)::int from registrations where contact_id = c.id) as seats,
       (select count(*)::int from attendance where contact_id = c.id and state in ${among(came)}) as attended,
       (select count(*)::int from assignments where contact_id = c.id and state in ${among(onShift)}) as shifts,
       (select count(*)::int from donations where contact_id = c.id) as gifts,
       (select max(arrived_at) from attendance where contact_id = c.id) as last_seen
     from contacts c where c.id = any($1)`,
    [ids],
  );

async function openPair(tx: Queries, id: string): Promise<PairRow> {
  const row = await first<PairRow>(tx, `select ${pairColumns} from pairs where id = $1 for update`, [id]);
  if (!row) throw notFound('This pair');
  return row;
}

/** Decides a pair as the same person: the one that stays keeps its links, the other's lead to it. */
async function decideSame(w: Work, pair: PairRow, keep: string, chosen: Chosen): Promise<string> {
  const other = keep === pair.contactA ? pair.contactB : pair.contactA;
  await update(w.tx, 'pairs', pair.id, { state: 'same', decidedBy: w.actor.staffId, decidedAt: w.now });
  return mergeContacts(w, keep, other, chosen);
}

/** Which of two stays when nobody says: the one that more hangs on, then the older. */
async function likelyKept(tx: Queries, pair: PairRow): Promise<string> {
  const sides = await readSides(tx, [pair.contactA, pair.contactB]);
  const [x, y] = sides as [PairSide, PairSide];
  if (weightOf(x) !== weightOf(y)) return weightOf(x) > weightOf(y) ? x.id : y.id;
  return x.createdAt <= y.createdAt ? x.id : y.id;
}

export const pairsHandlers: Handlers<typeof pairsContract> = {
  'GET /api/pairs': async ({ app, tx, query }) => {
    const { thresholds } = await readMatching({ app, tx });
    const rows = await tx.query<PairRow>(
      `select ${pairColumns} from pairs where state = 'open' and probability >= $1
       order by probability desc, id limit ${query.limit} offset ${query.offset}`,
      [thresholds.look],
    );
    const sides = new Map(
      (await readSides(tx, [...new Set(rows.flatMap((r) => [r.contactA, r.contactB]))])).map((s) => [
        s.id,
        s,
      ]),
    );
    const buckets = await tx.query<{ at: number; n: number }>(
      "select least(99, floor(probability * 100))::int as at, count(*)::int as n from pairs where state = 'open' group by 1",
    );
    const histogram = Array<number>(100).fill(0);
    for (const { at, n } of buckets) histogram[at] = n;
    const sure = await tx.query<{ p: number }>(
      "select probability as p from pairs where state = 'open' and held is null and probability >= 0.9 order by probability desc",
    );
    const counts = await first<{ open: number; decided: number }>(
      tx,
      `select count(*) filter (where state = 'open' and probability >= $1)::int as open,
         count(*) filter (where state <> 'open')::int as decided from pairs`,
      [thresholds.look],
    );
    return {
      pairs: rows.map(({ contactA, contactB, state: _, ...row }) => ({
        ...row,
        a: sides.get(contactA)!,
        b: sides.get(contactB)!,
      })),
      ...counts!,
      thresholds,
      histogram,
      sure: sure.map((s) => s.p),
      looking: lookingOf(app),
    };
  },

  'POST /api/pairs/look': async ({ app }) => {
    const run = async () => {
      await estimateModel(app);
      await findPairs(app);
    };
    run().catch((error) => app.log.error({ error: String(error) }, 'comparing all contacts failed'));
    return { done: true };
  },

  'PUT /api/pairs/thresholds': async (c) => {
    await setThresholds(c, c.body);
    await audit(c, 'moved the lines of matching', { kind: 'organization', id: null }, c.body);
    return c.body;
  },

  'POST /api/pairs/:id/decide': async (c) => {
    const { tx, params, body, now } = c;
    const pair = await openPair(tx, params.id);
    if (pair.state !== 'open')
      throw conflict('pair-decided', `This pair was decided already: ${pair.state}.`);
    if (body.decision === 'same') {
      if (body.keep && body.keep !== pair.contactA && body.keep !== pair.contactB)
        throw invalid([{ path: 'keep', message: 'The contact that stays has to be one of the two.' }]);
      const keep = body.keep ?? (await likelyKept(tx, pair));
      return { mergeId: await decideSame(c, pair, keep, body.chosen) };
    }
    await update(tx, 'pairs', pair.id, { state: body.decision, decidedBy: c.actor.staffId, decidedAt: now });
    if (body.decision === 'household') {
      const householdId = await householdOf(c, pair.contactA);
      await update(tx, 'contacts', pair.contactB, { householdId, updatedAt: now });
    }
    for (const id of [pair.contactA, pair.contactB])
      await audit(
        c,
        `said to be ${body.decision === 'household' ? 'of one household with' : 'another person than'} a like contact`,
        { kind: 'contact', id },
        { pair: pair.id },
      );
    return { mergeId: null };
  },

  'POST /api/pairs/:id/reopen': async (c) => {
    const pair = await openPair(c.tx, c.params.id);
    if (pair.state === 'same')
      throw conflict('pair-merged', 'These were merged. Take the merge apart instead.');
    await update(c.tx, 'pairs', pair.id, { state: 'open', decidedBy: null, decidedAt: null });
    return { done: true };
  },

  'POST /api/pairs/merge-sure': async (c) => {
    const pairs = await c.tx.query<PairRow>(
      `select ${pairColumns} from pairs where state = 'open' and held is null and probability >= $1 order by probability desc, id`,
      [c.body.from],
    );
    const mergeIds: string[] = [];
    const gone = new Set<string>();
    for (const pair of pairs) {
      // Somebody merged a moment ago is compared again first: two people are not chained through a third.
      if (gone.has(pair.contactA) || gone.has(pair.contactB)) continue;
      mergeIds.push(await decideSame(c, pair, await likelyKept(c.tx, pair), {}));
      gone.add(pair.contactA).add(pair.contactB);
    }
    return { merged: mergeIds.length, mergeIds };
  },

  'POST /api/contacts/:id/merge': async (c) => ({
    mergeId: await mergeContacts(c, c.params.id, c.body.other, c.body.chosen),
  }),

  'POST /api/merges/:id/undo': async (c) => unmerge(c, c.params.id),
};
