/** Logarithm of the gamma function, by Lanczos' approximation (g = 7, nine terms); right to about 15 digits for x > 0. */
function lnGamma(x: number): number {
  const terms = [
    676.5203681218851, -1259.1392167224028, 771.3234287776531, -176.6150291621406, 12.507343278686905,
    -0.13857109526572012, 9.984369578019572e-6, 1.5056327351493116e-7,
  ];
  const z = x - 1;
  const sum = terms.reduce((s, c, n) => s + c / (z + n + 1), 0.9999999999998099);
  const t = z + 7.5;
  return 0.5 * Math.log(2 * Math.PI) + (z + 0.5) * Math.log(t) - t + Math.log(sum);
}

/** The continued fraction of the incomplete beta function (DLMF 8.17.22), by Lentz's method. */
function fraction(x: number, a: number, b: number): number {
  const tiny = 1e-300;
  const kept = (v: number) => (Math.abs(v) < tiny ? tiny : v);
  let c = 1;
  let d = 1 / kept(1 - ((a + b) * x) / (a + 1));
  let h = d;
  for (let m = 1; m <= 500; m++) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
    d = 1 / kept(1 + even * d);
    c = kept(1 + even / c);
    h *= d * c;
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 / kept(1 + odd * d);
    c = kept(1 + odd / c);
    const step = d * c;
    h *= step;
    if (Math.abs(step - 1) < 1e-13) break;
  }
  return h;
}

/** The regularized incomplete beta function I_x(a, b): the share of a beta distribution below x. */
export function betaBelow(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  const front = Math.exp(lnGamma(a + b) - lnGamma(a) - lnGamma(b) + a * Math.log(x) + b * Math.log1p(-x));
  // Each half of the axis has the expansion that converges there.
  return x < (a + 1) / (a + b + 2)
    ? (front * fraction(x, a, b)) / a
    : 1 - (front * fraction(1 - x, b, a)) / b;
}

/** Below which x a share of a beta distribution lies, by halving. */
function betaAt(share: number, a: number, b: number): number {
  let [low, high] = [0, 1];
  for (let n = 0; n < 60; n++) {
    const middle = (low + high) / 2;
    if (betaBelow(middle, a, b) < share) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** How likely it is that at least so many of some seats come free, each by itself with the same chance. */
export const atLeast = (needed: number, seats: number, chance: number): number =>
  needed <= 0 ? 1 : needed > seats ? 0 : betaBelow(chance, needed, seats - needed + 1);

/** How seats came free before: of how many that were held with as many days to go, how many were given up by the start. */
export interface FreedBefore {
  held: number;
  freed: number;
}

/** Fewer seats than these say nothing of how many come free. */
const leastHeld = 30;

export interface Odds {
  /** Chances between 0 and 1: at the ends of what the past allows with 80 % (Jeffreys interval), and in the middle. */
  low: number;
  likely: number;
  high: number;
}

/**
 * How likely a party is to be offered seats before the event begins, from how seats came free before; null where too little is known.
 * `needed`: seats that have to come free for it and for everybody ahead; `held`: seats that could.
 */
export function oddsOf(needed: number, held: number, before: FreedBefore): Odds | null {
  if (needed <= 0) return { low: 1, likely: 1, high: 1 };
  if (before.held < leastHeld) return null;
  const a = before.freed + 0.5;
  const b = before.held - before.freed + 0.5;
  const at = (chance: number) => atLeast(needed, held, chance);
  return { low: at(betaAt(0.1, a, b)), likely: at(a / (a + b)), high: at(betaAt(0.9, a, b)) };
}

/** Odds as people say them: “between 2 and 5 in 10”. Never none, and never sure, unless it is. */
export function inTenths({ low, high }: Odds): { from: number; to: number } {
  const from = low >= 1 ? 10 : Math.min(9, Math.floor(low * 10));
  const to = high >= 1 ? 10 : Math.max(1, Math.min(10, Math.ceil(high * 10)));
  return { from, to: high < 1 && to === 10 && low < 0.95 ? 9 : Math.max(from, to) };
}
