/** Somebody of those who could have answered, or who did. */
export interface InStratum {
  stratum: string;
}

/**
 * How much each answer counts so that those who answered are made up as those who came (post-stratification: D. Holt and T. M. F.
 * Smith, Journal of the Royal Statistical Society A 142, 1979). The weights of all answers add up to their number. Of a stratum that
 * nobody answered from, nothing is known: it is named in `missing`.
 */
export function weightsOf(
  cameBy: ReadonlyMap<string, number>,
  answered: readonly InStratum[],
): { weightBy: ReadonlyMap<string, number>; missing: string[]; evens: number } {
  const answeredBy = new Map<string, number>();
  for (const { stratum } of answered) answeredBy.set(stratum, (answeredBy.get(stratum) ?? 0) + 1);
  const known = [...answeredBy.keys()];
  const came = known.reduce((sum, stratum) => sum + (cameBy.get(stratum) ?? 0), 0);
  const weightBy = new Map(
    known.map((stratum) => {
      const share = came ? (cameBy.get(stratum) ?? 0) / came : 0;
      return [stratum, share / (answeredBy.get(stratum)! / answered.length)] as const;
    }),
  );
  const sum = (power: number) =>
    answered.reduce((total, { stratum }) => total + (weightBy.get(stratum) ?? 0) ** power, 0);
  return {
    weightBy,
    missing: [...cameBy].filter(([stratum, n]) => n > 0 && !answeredBy.has(stratum)).map(([s]) => s),
    // As many even answers as say as much (Kish, Survey Sampling, 1965).
    evens: answered.length ? sum(1) ** 2 / sum(2) : 0,
  };
}
