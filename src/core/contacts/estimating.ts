import {
  type Agreement,
  agreementOf,
  type Field,
  fields,
  keysOf,
  levels,
  type Prepared,
} from './comparing.ts';
import {
  assumed,
  commonIn,
  emptyLikelihoods,
  type Kinship,
  kinships,
  type Likelihoods,
  type MatchingModel,
} from './weights.ts';

/** How many observed pairs an assumption weighs as much as; the more, the slower an organization's records overrule it. */
const trust: Record<Kinship, number> = { same: 60, household: 60, unrelated: 5 };
const randomPairs = 20_000;
const mostBlockedPairs = 60_000;
/** Blocks with more people than this are passed over: a key so common tells nothing. */
export const largestBlock = 200;

/**
 * Estimates the model from the organization's own records.
 * u: how often unrelated people agree, counted on random pairs. m, and how often people of one household agree: by
 * expectation–maximization over the pairs that share a key (A. P. Dempster, N. M. Laird, D. B. Rubin, 1977; W. E.
 * Winkler, "Using the EM Algorithm for Weight Computation", 1988), starting from and held by what is assumed.
 * `random` gives numbers from 0 to 1.
 */
export function estimate(people: readonly Prepared[], random: () => number): MatchingModel {
  const model: MatchingModel = {
    people: people.length,
    rates: assumed.rates,
    likelihoods: structuredClone(assumed.likelihoods),
    given: common(people.map((p) => p.given)),
    family: common(people.map((p) => p.family)),
  };
  if (people.length < 50) return model;
  const isCommon = commonIn(model);
  model.likelihoods.unrelated = unrelatedOf(people, random, isCommon);
  const patterns = patternsOf(blockedPairs(people), isCommon);
  const { likelihoods, pairs } = maximize(patterns, model.likelihoods);
  model.likelihoods.same = likelihoods.same;
  // Namesakes in one household cannot be told from duplicates by looking at the records: that share stays assumed.
  model.likelihoods.household = { ...likelihoods.household, given: assumed.likelihoods.household.given };
  // Each pair counts for both people in it. The assumption weighs as much as thirty people. A list without duplicates
  // does not mean that nobody who turns up is in it, so the rate of the same never falls below what is assumed.
  const rate = (n: number, before: number) => (2 * n + 30 * before) / (people.length + 30);
  model.rates = {
    same: clamp(rate(pairs.same, assumed.rates.same), assumed.rates.same, 1),
    household: clamp(rate(pairs.household, assumed.rates.household), 0.3, 3),
  };
  return model;
}

const clamp = (x: number, least: number, most: number): number => Math.min(most, Math.max(least, x));

/** Shares of the names that at least three people have. */
function common(names: readonly string[]): Record<string, number> {
  const counts = new Map<string, number>();
  for (const name of names) if (name) counts.set(name, (counts.get(name) ?? 0) + 1);
  return Object.fromEntries(
    [...counts].filter(([, n]) => n >= 3).map(([name, n]) => [name, n / names.length]),
  );
}

function unrelatedOf(
  people: readonly Prepared[],
  random: () => number,
  isCommon: (given: string) => boolean,
): Likelihoods {
  const counts = emptyLikelihoods();
  for (let n = 0; n < randomPairs; n += 1) {
    const a = people[Math.floor(random() * people.length)]!;
    const b = people[Math.floor(random() * people.length)]!;
    // A pair that shares its email is no random pair: it may be one person.
    if (a !== b) count(counts, agreementOf(a, b, isCommon), 1);
  }
  return shares(counts, assumed.likelihoods.unrelated, 2000);
}

/** Pairs of people who share a key, each once. */
export function* blockedPairs<P extends Prepared>(people: readonly P[]): Generator<[P, P]> {
  const blocks = new Map<string, number[]>();
  people.forEach((p, at) => {
    for (const key of keysOf(p)) {
      const block = blocks.get(key);
      if (block) block.push(at);
      else blocks.set(key, [at]);
    }
  });
  const seen = new Set<number>();
  for (const block of blocks.values()) {
    if (block.length < 2 || block.length > largestBlock) continue;
    for (let i = 0; i < block.length; i += 1)
      for (let j = i + 1; j < block.length; j += 1) {
        const pair = block[i]! * people.length + block[j]!;
        if (seen.has(pair)) continue;
        seen.add(pair);
        yield [people[block[i]!]!, people[block[j]!]!];
      }
  }
}

interface Pattern {
  agreement: Agreement;
  count: number;
}

function patternsOf(pairs: Iterable<[Prepared, Prepared]>, isCommon: (given: string) => boolean): Pattern[] {
  const patterns = new Map<string, Pattern>();
  let n = 0;
  for (const [a, b] of pairs) {
    if (n >= mostBlockedPairs) break;
    n += 1;
    const agreement = agreementOf(a, b, isCommon);
    const key = fields.map((f) => agreement[f]).join('|');
    const pattern = patterns.get(key);
    if (pattern) pattern.count += 1;
    else patterns.set(key, { agreement, count: 1 });
  }
  return [...patterns.values()];
}

function maximize(
  patterns: readonly Pattern[],
  start: Record<Kinship, Likelihoods>,
): { likelihoods: Record<Kinship, Likelihoods>; pairs: Record<Kinship, number> } {
  let likelihoods = structuredClone(start);
  let pairs: Record<Kinship, number> = { same: 1, household: 1, unrelated: 2 };
  for (let round = 0; round < 40; round += 1) {
    const counts: Record<Kinship, Likelihoods> = {
      same: emptyLikelihoods(),
      household: emptyLikelihoods(),
      unrelated: emptyLikelihoods(),
    };
    const sums: Record<Kinship, number> = { same: 0, household: 0, unrelated: 0 };
    for (const { agreement, count: n } of patterns) {
      const weights = kinships.map((k) => pairs[k] * likelihoodOf(agreement, likelihoods[k]));
      const sum = weights.reduce((s, w) => s + w, 0) || 1;
      kinships.forEach((k, at) => {
        const share = (n * weights[at]!) / sum;
        sums[k] += share;
        count(counts[k], agreement, share);
      });
    }
    likelihoods = Object.fromEntries(
      kinships.map((k) => [k, shares(counts[k], start[k], trust[k])]),
    ) as Record<Kinship, Likelihoods>;
    const moved = kinships.reduce((s, k) => s + Math.abs(sums[k] - pairs[k]), 0);
    pairs = sums;
    if (moved < 0.01) break;
  }
  return { likelihoods, pairs };
}

function likelihoodOf(agreement: Agreement, of: Likelihoods): number {
  let product = 1;
  for (const field of fields)
    if (agreement[field] !== 'missing')
      product *= (of[field] as Record<string, number>)[agreement[field]] ?? 1e-7;
  return product;
}

function count(into: Likelihoods, agreement: Agreement, n: number): void {
  for (const field of fields)
    if (agreement[field] !== 'missing') (into[field] as Record<string, number>)[agreement[field]]! += n;
}

/** Counts as shares, held by what is assumed as if it had been seen `weight` times. */
function shares(counts: Likelihoods, before: Likelihoods, weight: number): Likelihoods {
  const of = (field: Field) => {
    const own = counts[field] as Record<string, number>;
    const prior = before[field] as Record<string, number>;
    const all = levels[field].reduce((s, l) => s + own[l]!, 0);
    return Object.fromEntries(levels[field].map((l) => [l, (own[l]! + weight * prior[l]!) / (all + weight)]));
  };
  return Object.fromEntries(fields.map((f) => [f, of(f)])) as unknown as Likelihoods;
}
