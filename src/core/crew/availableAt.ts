import type { CalendarDate, Instant, WallTime, Zone } from '#core/time/clock.ts';
import { instantOf } from '#core/time/wallTime.ts';
import { type Availability, stretchesBetween } from './availability.ts';

const wallAt = (minute: number): WallTime => new Date(minute * 60_000).toISOString().slice(0, 16);

/**
 * When somebody can serve between two days, both included, as instants where the event is. A night in which the clock changes is as
 * long as it is.
 */
export const instantsBetween = (
  of: Availability,
  first: CalendarDate,
  last: CalendarDate,
  zone: Zone,
): [Instant, Instant][] =>
  stretchesBetween(of, first, last).map(([from, to]) => [
    instantOf(wallAt(from), zone),
    instantOf(wallAt(to), zone),
  ]);
