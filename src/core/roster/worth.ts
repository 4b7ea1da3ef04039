import { isGain, type Score, type ScoreTerm, scoreTerms } from './score.ts';

/**
 * A score as one number, larger for what is better: one of a term is worth more than all of the later ones, as large as
 * `most` says they can be. To say how near an answer is to its bound; the terms themselves are exact.
 */
export function worthOf(score: Score, most: Record<ScoreTerm, number>): number {
  let weight = 1;
  let worth = 0;
  for (const term of [...scoreTerms].reverse()) {
    worth += weight * (isGain(term) ? score[term] : -score[term]);
    weight *= most[term] + 1;
  }
  return worth;
}

/** The first term in which a roster could still be better, by how much of it; 0 where it is proven to be the best. */
export function gapOf(score: Score, bound: Score): number {
  for (const term of scoreTerms) {
    const by = Math.abs(bound[term] - score[term]);
    if (by > 1e-6 * Math.max(1, Math.abs(score[term])))
      return by / Math.max(1e-9, Math.abs(score[term]), Math.abs(bound[term]));
  }
  return 0;
}
