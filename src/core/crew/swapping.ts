import type { Instant } from '#core/time/clock.ts';

/** Somebody on a shift who would have another in its place. */
export interface SwapWish {
  assignmentId: string;
  contactId: string;
  /** Where they are. */
  shiftId: string;
  /** What they would take instead. */
  wants: readonly string[];
  since: Instant;
}

/** Somebody who goes from one shift to another. */
export interface SwapMove {
  assignmentId: string;
  contactId: string;
  from: string;
  to: string;
}

/** The most people who change places at once: of more nobody could say why they moved. */
export const mostInASwap = 4;

const before = (a: SwapWish, b: SwapWish) =>
  a.since === b.since ? (a.assignmentId < b.assignmentId ? -1 : 1) : a.since < b.since ? -1 : 1;

/**
 * The swaps that work out: each is a ring, in which everybody takes the place of the next and the last that of the first, or a row
 * that ends in an open place. Rings come first, because no shift has one fewer after them; then the fewer people move the better, then
 * whoever wished it first. Nobody is in two of them, and no open place is taken twice. Nobody is moved to a shift where they are
 * already.
 * @param open how many places of a shift nobody has
 * @param on the shifts each contact is on
 */
export function swapsIn(
  wishes: readonly SwapWish[],
  open: ReadonlyMap<string, number>,
  on: ReadonlyMap<string, ReadonlySet<string>>,
): SwapMove[][] {
  const left = new Map(open);
  const at = new Map([...on].map(([contactId, shifts]) => [contactId, new Set(shifts)]));
  const pool = new Set([...wishes].sort(before));
  const swaps: SwapMove[][] = [];
  const sizes = Array.from({ length: mostInASwap }, (_, n) => n + 1);
  for (const { kind, size } of (['ring', 'row'] as const).flatMap((kind) =>
    sizes.map((size) => ({ kind, size })),
  ))
    for (const first of [...pool]) {
      if (!pool.has(first)) continue;
      const row = rowFrom(first, kind, size, [...pool], left, at);
      if (!row) continue;
      for (const { wish, to } of row) {
        pool.delete(wish);
        at.get(wish.contactId)?.add(to);
      }
      const last = row.at(-1)!.to;
      if (last !== first.shiftId) left.set(last, left.get(last)! - 1);
      swaps.push(
        row.map(({ wish: { assignmentId, contactId, shiftId }, to }) => ({
          assignmentId,
          contactId,
          from: shiftId,
          to,
        })),
      );
    }
  return swaps;
}

interface Step {
  wish: SwapWish;
  to: string;
}

/** A ring or a row of just so many people that begins with one of them; null where there is none. */
function rowFrom(
  first: SwapWish,
  kind: 'ring' | 'row',
  size: number,
  pool: readonly SwapWish[],
  open: ReadonlyMap<string, number>,
  on: ReadonlyMap<string, ReadonlySet<string>>,
): Step[] | null {
  const can = (wish: SwapWish, to: string) => !on.get(wish.contactId)?.has(to);
  const go = (wish: SwapWish, taken: readonly Step[]): Step[] | null => {
    for (const to of wish.wants) {
      if (!can(wish, to)) continue;
      const row = [...taken, { wish, to }];
      if (row.length === size) {
        // A ring of one is no move; a row ends where there is room.
        if (kind === 'ring' ? to === first.shiftId && size > 1 : (open.get(to) ?? 0) > 0) return row;
        continue;
      }
      for (const next of pool) {
        if (next.shiftId !== to || row.some((s) => s.wish.contactId === next.contactId)) continue;
        const found = go(next, row);
        if (found) return found;
      }
    }
    return null;
  };
  return go(first, []);
}
