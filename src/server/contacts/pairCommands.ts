import type { z } from 'zod';
import type { PairSide, pairsContract } from '#contract/pairs.ts';
import { weightOf } from '#core/contacts/keeping.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { type Queries, update } from '../db/database.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { householdOf } from './linking.ts';
import { type Chosen, mergeContacts } from './merging.ts';
import { lockPair, type PairRow, readSides, readSurePairs } from './pairStore.ts';

type Decision = z.output<(typeof pairsContract)['POST /api/pairs/:id/decide']['body']>;

async function thePair(tx: Queries, id: string): Promise<PairRow> {
  const pair = await lockPair(tx, id);
  if (!pair) throw notFound('This pair');
  return pair;
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

/** Decides whether two contacts are one person, one household, or neither. Answers the merge, where there was one. */
export async function decidePair(
  w: Work,
  id: string,
  { decision, keep, chosen }: Decision,
): Promise<string | null> {
  const { tx, now } = w;
  const pair = await thePair(tx, id);
  if (pair.state !== 'open') throw refused('pair-decided', { state: pair.state });
  if (decision === 'same') {
    if (keep && keep !== pair.contactA && keep !== pair.contactB)
      throw invalid([{ path: 'keep', code: 'keeps-one-of-two' }]);
    return decideSame(w, pair, keep ?? (await likelyKept(tx, pair)), chosen);
  }
  await update(tx, 'pairs', pair.id, { state: decision, decidedBy: w.actor.staffId, decidedAt: now });
  if (decision === 'household') {
    const householdId = await householdOf(w, pair.contactA);
    await update(tx, 'contacts', pair.contactB, { householdId, updatedAt: now });
  }
  for (const contactId of [pair.contactA, pair.contactB])
    await record(w, 'contact changed', {
      contactId,
      how: `said to be ${decision === 'household' ? 'of one household with' : 'another person than'} a like contact`,
      detail: { pair: pair.id },
    });
  return null;
}

/** Takes a decision back. Two that were merged are taken apart instead. */
export async function reopenPair(w: Work, id: string): Promise<void> {
  const pair = await thePair(w.tx, id);
  if (pair.state === 'same') throw refused('pair-merged');
  await update(w.tx, 'pairs', pair.id, { state: 'open', decidedBy: null, decidedAt: null });
}

/** Merges every pair that is sure enough and that nothing holds back. Answers the merges. */
export async function mergeSure(w: Work, from: number): Promise<string[]> {
  const mergeIds: string[] = [];
  const gone = new Set<string>();
  for (const pair of await readSurePairs(w.tx, from)) {
    // Somebody merged a moment ago is compared again first: two people are not chained through a third.
    if (gone.has(pair.contactA) || gone.has(pair.contactB)) continue;
    mergeIds.push(await decideSame(w, pair, await likelyKept(w.tx, pair), {}));
    gone.add(pair.contactA).add(pair.contactB);
  }
  return mergeIds;
}
