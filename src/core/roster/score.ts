import type { Ground } from './ground.ts';
import type { Standing } from './standing.ts';

/**
 * What a roster is worth, term by term; an earlier term outweighs all later ones.
 *
 * 1. `least`: importance of every place that is filled up to what its shift takes at least.
 * 2. `wished`: importance of every place that is filled beyond that, up to what is wished.
 * 3. `wishes`: how much those who are on shifts want their roles.
 * 4. `largest`: the most hours any one person has. Less is better.
 * 5. `spread`: the squares of everybody's hours, added up. Less is better: with as many hours to serve, it is least where
 *    they are shared out most evenly.
 *
 * What is fixed counts in all of them.
 */
export interface Score {
  least: number;
  wished: number;
  wishes: number;
  largest: number;
  spread: number;
}

export const scoreTerms = ['least', 'wished', 'wishes', 'largest', 'spread'] as const;
export type ScoreTerm = (typeof scoreTerms)[number];

/** Whether more of a term is better. */
export const isGain = (term: ScoreTerm): boolean => term !== 'largest' && term !== 'spread';

/** Terms are sums of fractions: what differs by less is the same. */
const same = 1e-6;

/** Below zero where the first is worth more, above where the second is, zero where they are worth the same. */
export function compareScores(a: Score, b: Score): number {
  for (const term of scoreTerms) {
    const by = (b[term] - a[term]) * (isGain(term) ? 1 : -1);
    if (Math.abs(by) > same * Math.max(1, Math.abs(a[term]))) return by;
  }
  return 0;
}

/** What shifts are worth that are filled so far. */
export function coverOf(ground: Ground, filled: ArrayLike<number>): Pick<Score, 'least' | 'wished'> {
  let least = 0;
  let wished = 0;
  for (const [at, s] of ground.shifts.entries()) {
    least += s.importance * Math.min(filled[at]!, s.least);
    wished += s.importance * Math.max(0, Math.min(filled[at]!, s.wished) - s.least);
  }
  return { least, wished };
}

/** How much those who are fixed on shifts want their roles. */
export const fixedWishes = ({ instance, fixedOf }: Ground): number =>
  fixedOf.reduce((sum, shifts, person) => {
    const { wishes } = instance.people[person]!;
    return (
      sum +
      shifts.reduce((of, s) => {
        const { role } = instance.shifts[s]!;
        return of + (Object.hasOwn(wishes, role) ? wishes[role]! : 0);
      }, 0)
    );
  }, 0);

export function scoreOf(standing: Standing): Score {
  const { ground, minutes } = standing;
  let wishes = fixedWishes(ground);
  for (const [unit, shifts] of standing.shiftsOf.entries()) {
    const of = ground.units[unit]!;
    for (const s of shifts) wishes += of.wishes[of.at.get(s)!]!;
  }
  let largest = 0;
  let spread = 0;
  for (const m of minutes) {
    largest = Math.max(largest, m / 60);
    spread += (m / 60) ** 2;
  }
  return { ...coverOf(ground, standing.filled), wishes, largest, spread };
}
