import type { WallTime } from '#core/time/clock.ts';

/** What tells which events are the same again: the first one that they go back to by copying. */
interface Again {
  firstOf: string;
  startsLocal: WallTime | null;
}

const newestFirst = (a: Again, b: Again): number =>
  (a.startsLocal ?? '') < (b.startsLocal ?? '') ? 1 : (a.startsLocal ?? '') > (b.startsLocal ?? '') ? -1 : 0;

/** Events grouped by what recurs: each group newest first, and first the group with the newest. Without a date comes last. */
export function recurring<E extends Again>(events: readonly E[]): [E, ...E[]][] {
  const groups = new Map<string, [E, ...E[]]>();
  for (const event of [...events].sort(newestFirst)) {
    const known = groups.get(event.firstOf);
    if (known) known.push(event);
    else groups.set(event.firstOf, [event]);
  }
  return [...groups.values()];
}
