import { beyondNormal, beyondT } from './distributions.ts';
import { type Mean, shareOf } from './intervals.ts';

/** Whether two groups differ by more than chance would make them. */
export interface Difference {
  /** Which test it was. */
  test: 'welch' | 'two shares' | 'fisher';
  /** The second less the first. */
  by: number;
  /** Of shares, the bounds of the difference by Newcombe’s hybrid score method; null of means. */
  low: number | null;
  high: number | null;
  /** How likely a difference at least as large is where there is none. */
  p: number;
  /** How large it is in standard deviations (means, Cohen’s d), or as the difference of arcsines (shares, Cohen’s h). */
  size: number;
}

/** Below this a difference is said to be more than chance. */
const level = 0.05;
export const isMoreThanChance = (d: Pick<Difference, 'p'>): boolean => d.p < level;

/** How large a difference is by the bounds of Cohen (Statistical Power Analysis, 1988), for d and h alike. */
export const sizeOf = (d: Pick<Difference, 'size'>): 'hardly any' | 'small' | 'middling' | 'large' => {
  const size = Math.abs(d.size);
  return size < 0.2 ? 'hardly any' : size < 0.5 ? 'small' : size < 0.8 ? 'middling' : 'large';
};

/** Two means by Welch’s test, which does not suppose that both groups spread alike; null where one has fewer than two values. */
export function twoMeans(a: Mean | null, b: Mean | null): Difference | null {
  if (!a || !b || a.n < 2 || b.n < 2) return null;
  const by = b.value - a.value;
  const [va, vb] = [a.deviation ** 2 / a.n, b.deviation ** 2 / b.n];
  const pooled = Math.sqrt((a.deviation ** 2 + b.deviation ** 2) / 2);
  // Everybody said the same: two sames are one, or as far apart as can be.
  if (va + vb === 0) return { test: 'welch', by, low: null, high: null, p: by === 0 ? 1 : 0, size: 0 };
  const freedom = (va + vb) ** 2 / (va ** 2 / (a.n - 1) + vb ** 2 / (b.n - 1));
  return {
    test: 'welch',
    by,
    low: null,
    high: null,
    p: beyondT(by / Math.sqrt(va + vb), freedom),
    size: pooled ? by / pooled : 0,
  };
}

/** Some of a group who said something. */
export interface Counted {
  count: number;
  n: number;
}

/**
 * Two shares: by Fisher’s exact test where no more than five would be expected somewhere, else by the test of two proportions;
 * the bounds by R. G. Newcombe (Statistics in Medicine 17, 1998, method 10). Null where a group is empty.
 */
export function twoShares(a: Counted, b: Counted): Difference | null {
  if (a.n <= 0 || b.n <= 0) return null;
  const [sa, sb] = [shareOf(a.count, a.n), shareOf(b.count, b.n)];
  const by = sb.value - sa.value;
  const together = (a.count + b.count) / (a.n + b.n);
  const few = Math.min(a.n, b.n) * Math.min(together, 1 - together) <= 5;
  const error = Math.sqrt(together * (1 - together) * (1 / a.n + 1 / b.n));
  return {
    test: few ? 'fisher' : 'two shares',
    by,
    low: by - Math.hypot(sb.value - sb.low, sa.high - sa.value),
    high: by + Math.hypot(sb.high - sb.value, sa.value - sa.low),
    p: few ? fisher(a, b) : error ? beyondNormal(by / error) : 1,
    size: 2 * Math.asin(Math.sqrt(sb.value)) - 2 * Math.asin(Math.sqrt(sa.value)),
  };
}

/** Fisher’s exact test of a table of two by two, on both sides: every table with the same margins that is no likelier is added up. */
function fisher(a: Counted, b: Counted): number {
  const [m, n] = [Math.round(a.n), Math.round(b.n)];
  const said = Math.round(a.count) + Math.round(b.count);
  const logs = [0];
  for (let k = 1; k <= m + n; k++) logs.push(logs[k - 1]! + Math.log(k));
  const choose = (of: number, k: number) => logs[of]! - logs[k]! - logs[of - k]!;
  const chance = (k: number) => Math.exp(choose(m, k) + choose(n, said - k) - choose(m + n, said));
  const seen = chance(Math.round(a.count));
  let p = 0;
  for (let k = Math.max(0, said - n); k <= Math.min(m, said); k++)
    if (chance(k) <= seen * (1 + 1e-9)) p += chance(k);
  return Math.min(1, p);
}
