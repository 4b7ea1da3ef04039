import type { accountOfMethod } from './accounts.ts';
import type { Amount } from './amount.ts';

export type MoneyMethod = keyof typeof accountOfMethod;

/** Money that came in, or went back (below nought), in the order it did. */
export interface Moved {
  method: MoneyMethod;
  /** The charge it rests on, of a card. */
  chargeId: string | null;
  amount: Amount;
}

/**
 * The ways by which money goes back: the way it came, what came last first. What went back before is taken off the way it went. Amounts
 * are above nought and add up to what is asked, or to all there is where that is less.
 */
export function waysBack(moved: readonly Moved[], amount: Amount): Moved[] {
  const stands: Moved[] = [];
  const take = (most: Amount, from: (m: Moved) => boolean): Moved[] => {
    const taken: Moved[] = [];
    let left = most;
    for (let at = stands.length - 1; at >= 0 && left > 0; at -= 1) {
      const m = stands[at]!;
      if (!from(m) || m.amount <= 0) continue;
      const part = Math.min(left, m.amount);
      m.amount -= part;
      left -= part;
      taken.push({ ...m, amount: part });
    }
    return taken;
  };
  for (const m of moved) {
    if (m.amount > 0) stands.push({ ...m });
    else {
      const same = take(0 - m.amount, (s) => s.method === m.method && s.chargeId === m.chargeId);
      const rest = 0 - m.amount - same.reduce((sum, s) => sum + s.amount, 0);
      const alike = take(rest, (s) => s.method === m.method);
      take(rest - alike.reduce((sum, s) => sum + s.amount, 0), () => true);
    }
  }
  const ways = new Map<string, Moved>();
  for (const m of take(amount, () => true)) {
    const key = `${m.method} ${m.chargeId ?? ''}`;
    const known = ways.get(key);
    if (known) known.amount += m.amount;
    else ways.set(key, m);
  }
  return [...ways.values()];
}
