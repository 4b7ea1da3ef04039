import { t975, z975 } from './distributions.ts';

/** A figure worked out from some, with the bounds in which that of all would lie in 95 of 100 such samples. */
export interface Estimate {
  value: number;
  low: number;
  high: number;
}

/**
 * A share of `n` with Wilson’s score interval (E. B. Wilson, Journal of the American Statistical Association 22, 1927).
 * `n` may be a weighted one, not whole. Nothing is known of nobody: from 0 to 1.
 */
export function shareOf(count: number, n: number): Estimate {
  if (n <= 0) return { value: 0, low: 0, high: 1 };
  const p = count / n;
  const z2 = z975 * z975;
  const centre = p + z2 / (2 * n);
  const half = z975 * Math.sqrt((p * (1 - p)) / n + z2 / (4 * n * n));
  const whole = 1 + z2 / n;
  // At the ends the bound is the end itself, which a rounded root would miss by a hair.
  return {
    value: p,
    low: count <= 0 ? 0 : Math.max(0, (centre - half) / whole),
    high: count >= n ? 1 : Math.min(1, (centre + half) / whole),
  };
}

/** Values with how much each counts. */
export interface Weighed {
  value: number;
  weight: number;
}
export const evenly = (values: readonly number[]): Weighed[] => values.map((value) => ({ value, weight: 1 }));

export interface Mean extends Estimate {
  /** The standard deviation; 0 of one value. */
  deviation: number;
  /** How many values it rests on; of weighted ones as many even ones as would say as much (Kish, Survey Sampling, 1965). */
  n: number;
}

/** The mean with Student’s interval, kept within what can be answered; null of nothing. One value alone says nothing of how far it may be off: its bounds are all that can be answered. */
export function meanOf(values: readonly Weighed[], least: number, most: number): Mean | null {
  const total = values.reduce((sum, v) => sum + v.weight, 0);
  if (total <= 0) return null;
  const value = values.reduce((sum, v) => sum + v.weight * v.value, 0) / total;
  const n = (total * total) / values.reduce((sum, v) => sum + v.weight * v.weight, 0);
  const spread = values.reduce((sum, v) => sum + v.weight * (v.value - value) ** 2, 0) / total;
  if (n <= 1.000001) return { value, low: least, high: most, deviation: 0, n };
  const deviation = Math.sqrt((spread * n) / (n - 1));
  const half = (t975(n - 1) * deviation) / Math.sqrt(n);
  return { value, low: Math.max(least, value - half), high: Math.min(most, value + half), deviation, n };
}

/**
 * Those who would recommend something less those who would not, in points from −100 to 100, with the adjusted Wald interval:
 * three answers are thought to be added, three quarters at each end and one and a half between (B. Rocks, The American
 * Statistician 70, 2016).
 */
export function recommendScore(would: number, would0: number, n: number): Estimate {
  const value = n > 0 ? (would - would0) / n : 0;
  const more = n + 3;
  const [p, d] = [(would + 0.75) / more, (would0 + 0.75) / more];
  const half = z975 * Math.sqrt((p + d - (p - d) ** 2) / more);
  const points = (share: number) => 100 * Math.max(-1, Math.min(1, share));
  return { value: points(value), low: points(p - d - half), high: points(p - d + half) };
}
