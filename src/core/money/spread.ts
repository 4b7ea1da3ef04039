import type { Amount } from './amount.ts';

/**
 * Spreads an amount over parts by their weights, to the last minor unit: each part gets its share rounded down, and what is left goes
 * one by one to those with the largest remainders, the first of equals (largest remainder, or Hare–Niemeyer). The parts always add
 * up to the amount, and none is a whole unit away from its exact share. Where nothing has weight, nothing is spread.
 */
export function spread(amount: Amount, weights: readonly number[]): Amount[] {
  const sum = weights.reduce((total, w) => total + w, 0);
  if (sum <= 0) return weights.map(() => 0);
  // Whole numbers all the way: a share in floating point would now and then be one unit off.
  const [all, by] = [BigInt(amount), BigInt(sum)];
  const exact = weights.map((w) => all * BigInt(w));
  const parts = exact.map((share) => Number(share / by));
  const left = amount - parts.reduce((total, p) => total + p, 0);
  exact
    .map((share, at) => ({ at, rest: share % by }))
    .filter(({ at }) => weights[at]! > 0)
    .sort((a, b) => (a.rest === b.rest ? a.at - b.at : a.rest > b.rest ? -1 : 1))
    .slice(0, left)
    .forEach(({ at }) => {
      parts[at]! += 1;
    });
  return parts;
}

/** A share of an amount, in hundred-thousandths (15 % is 15000), to the nearest minor unit; half a unit is rounded up. */
export const shareOf = (amount: Amount, rate: number): Amount =>
  Number((BigInt(amount) * BigInt(rate) + 50_000n) / 100_000n);

/** What of an amount is one of the taxes that it includes, at a rate in hundred-thousandths; `all`: the rates of all of them together. */
export const includedIn = (amount: Amount, rate: number, all = rate): Amount => {
  const [of, by] = [BigInt(amount) * BigInt(rate), BigInt(100_000 + all)];
  return Number((2n * of + by) / (2n * by));
};
