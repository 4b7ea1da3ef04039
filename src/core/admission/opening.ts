import type { WallTime } from '#core/time/clock.ts';

/** What of an event decides from when anybody can register. */
export interface Opening {
  /** When the first of its tickets go on sale; null where some are from the beginning. */
  salesOpenLocal: WallTime | null;
  /** The ways somebody may come to it, each from a time on or from the beginning; none: everybody may. */
  admission: { ways: readonly { opensLocal: WallTime | null }[] };
}

/** From when the first can register, by the clock of the event; null where somebody can from the beginning. */
export function opensLocal({ salesOpenLocal, admission: { ways } }: Opening): WallTime | null {
  const open = ways.map((w) => w.opensLocal);
  const admits = open.length && !open.includes(null) ? (open as WallTime[]).sort()[0]! : null;
  return (
    [salesOpenLocal, admits]
      .filter((at) => at !== null)
      .sort()
      .at(-1) ?? null
  );
}
