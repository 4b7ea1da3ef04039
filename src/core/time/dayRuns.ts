import type { CalendarDate, Instant, Zone } from './clock.ts';
import { dateOf } from './wallTime.ts';

/** Days by number, the first and the last of a stretch of time. */
export interface Days {
  first: number;
  last: number;
}

/** The number of a day: days since the beginning of 1970. */
export const dayNumber = (date: CalendarDate): number => Date.parse(`${date}T00:00Z`) / 86_400_000;

/** The days on which something lies by the clock of a zone. What ends at midnight is not on the day that begins then. */
export const daysAt = (startsAt: Instant, endsAt: Instant, zone: Zone): Days => ({
  first: dayNumber(dateOf(startsAt, zone)),
  last: dayNumber(dateOf(new Date(Date.parse(endsAt) - 60_000).toISOString(), zone)),
});

/** How many days in a row there are around some of them, those included, where `has` says which others are taken. */
export function runAround({ first, last }: Days, has: (day: number) => boolean): number {
  let from = first;
  while (has(from - 1)) from -= 1;
  let to = last;
  while (has(to + 1)) to += 1;
  return to - from + 1;
}
