import { betaBelow } from '#core/statistics/beta.ts';

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
