import type { Instant } from '#core/time/clock.ts';

/** How many came by a moment, and how many were to be expected by then. */
export interface ArrivalPoint {
  at: Instant;
  came: number | null;
  forecast: number | null;
}

/** The fewest arrivals of before from which anything is said about the next. */
export const fewestArrivals = 30;

/** What is known of how people came before, for a forecast. */
export interface Before {
  /** Minutes after the start at which people came, negative before it, in any order. */
  offsets: readonly number[];
  /** How many had a seat at those events. */
  seats: number;
}

/**
 * How many of those who have a seat are expected by so many minutes after the start: the share that came by then of all who had a seat before (the
 * empirical distribution function). Null where too few came before.
 */
export function expectedBy(before: Before, seats: number, minutes: number): number | null {
  if (before.offsets.length < fewestArrivals || before.seats === 0) return null;
  const came = before.offsets.reduce((n, offset) => n + (offset <= minutes ? 1 : 0), 0);
  return Math.round((seats * came) / before.seats);
}

/** Minutes between two points of the curve, so that there are between 8 and 30 of them. */
export const stepOf = (minutes: number): number =>
  [5, 10, 15, 30, 60, 120, 240].find((step) => minutes / step <= 30) ?? 480;

/**
 * The curve of arrivals of a day: from `from` to `until`, how many had come by each moment as far as it lies behind, beside how many were
 * expected by then.
 */
export function arrivalCurve({
  arrivals,
  startsAt,
  from,
  until,
  now,
  seats,
  before,
}: {
  /** When each came who came, in any order. */
  arrivals: readonly Instant[];
  startsAt: Instant;
  from: Instant;
  until: Instant;
  now: Instant;
  /** How many have a seat. */
  seats: number;
  before: Before;
}): ArrivalPoint[] {
  const [begin, end, start] = [Date.parse(from), Date.parse(until), Date.parse(startsAt)];
  const step = stepOf((end - begin) / 60_000) * 60_000;
  const sorted = arrivals.map((at) => Date.parse(at)).sort((a, b) => a - b);
  const points: ArrivalPoint[] = [];
  for (let at = begin; at <= end + step - 1; at += step) {
    const here = Math.min(at, end);
    points.push({
      at: new Date(here).toISOString(),
      came: here - step < Date.parse(now) ? sorted.filter((a) => a <= here).length : null,
      forecast: expectedBy(before, seats, (here - start) / 60_000),
    });
    if (here === end) break;
  }
  return points;
}
