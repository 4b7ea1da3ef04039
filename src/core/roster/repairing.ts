import type { Standing } from './standing.ts';

/** One way of filling a place: who moves from which shift to which, the first onto the place; `from` is null for whoever is free. */
export type Step = { unit: number; to: number; from: number | null };

/**
 * Fills one place of a shift with the fewest changes to anybody: whoever is free; else somebody comes from a shift whose place
 * another takes, and so on (a search by breadth, so the shortest way is found first). Among ways of one length the one is
 * taken whose first person wants the role most and has served least. Null where nothing fills it within `most` changes.
 */
export function fewestChanges(standing: Standing, shift: number, most = 4): Step[] | null {
  const { candidates, units } = standing.ground;
  const from = new Map<number, { to: number; unit: number } | null>([[shift, null]]);
  const order = (at: number) =>
    [...candidates[at]!].sort((a, b) => {
      const wish = (u: number) => units[u]!.wishes[units[u]!.at.get(at)!]!;
      const load = (u: number) => Math.max(...units[u]!.people.map((p) => standing.minutes[p]!));
      return wish(b) - wish(a) || load(a) - load(b) || a - b;
    });
  let reached = [shift];
  for (let length = 1; length <= most && reached.length; length += 1) {
    for (const at of reached)
      for (const unit of order(at)) {
        if (standing.has(unit, at)) continue;
        const steps = stepsTo(from, at, unit);
        if (holds(standing, steps)) return steps;
      }
    const next: number[] = [];
    for (const at of reached)
      for (const unit of order(at))
        for (const other of standing.shiftsOf[unit]!) {
          if (from.has(other) || standing.has(unit, at)) continue;
          if (!standing.canLeave(unit, other) || !canCome(standing, unit, at, other, at !== shift)) continue;
          from.set(other, { to: at, unit });
          next.push(other);
        }
    reached = next;
  }
  return null;
}

/** Whether a unit can come to a shift by leaving another; with `left`, once somebody has left its place there. */
function canCome(standing: Standing, unit: number, to: number, from: number, left: boolean): boolean {
  if (left) standing.filled[to]! -= 1;
  const can = standing.can(unit, to, from);
  if (left) standing.filled[to]! += 1;
  return can;
}

/** The way from the place to whoever ends it, in the order in which it can be gone. */
function stepsTo(
  from: ReadonlyMap<number, { to: number; unit: number } | null>,
  at: number,
  last: number,
): Step[] {
  const steps: Step[] = [{ unit: last, to: at, from: null }];
  for (let off = at, step = from.get(at)!; step; off = step.to, step = from.get(off)!)
    steps.push({ unit: step.unit, to: step.to, from: off });
  return steps.reverse();
}

/** Whether a way can be gone as things stand; leaves them as they were. */
function holds(standing: Standing, steps: readonly Step[]): boolean {
  const done = take(standing, steps);
  if (done) undo(standing, steps);
  return done;
}

const undo = (standing: Standing, steps: readonly Step[]): void => {
  for (const { unit, to, from } of [...steps].reverse()) {
    standing.take(unit, to);
    if (from !== null) standing.put(unit, from);
  }
};

/** Goes a way, or leaves everything as it was where a step of it cannot be taken. */
export function take(standing: Standing, steps: readonly Step[]): boolean {
  for (const [n, { unit, to, from }] of steps.entries()) {
    const leaves = from === null || (standing.has(unit, from) && standing.canLeave(unit, from));
    if (from !== null && leaves) standing.take(unit, from);
    if (leaves && standing.can(unit, to)) {
      standing.put(unit, to);
      continue;
    }
    if (from !== null && leaves) standing.put(unit, from);
    undo(standing, steps.slice(0, n));
    return false;
  }
  return true;
}
