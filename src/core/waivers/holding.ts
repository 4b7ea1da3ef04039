import type { CalendarDate } from '#core/time/clock.ts';
import { isCalendarDate, shiftDate } from '#core/time/dates.ts';

/**
 * For how long a signature holds: for the event it was given for; for the calendar year; for a season, which ends on the same day each
 * year (`08-31`); until a date.
 */
export type Holds =
  | { for: 'event' }
  | { for: 'year' }
  | { for: 'season'; ends: string }
  | { for: 'until'; date: CalendarDate };
export const holdsKinds = ['event', 'year', 'season', 'until'] as const satisfies readonly Holds['for'][];

/** True for a day of every year: 29 February ends no season. */
export const isYearDay = (day: string): boolean => /^\d\d-\d\d$/u.test(day) && isCalendarDate(`2001-${day}`);

/**
 * The last day a signature holds; null where it holds for its event alone. Reckoned from the day it is for: what is signed in December
 * for January holds for the next year. A date that is over on that day holds for the event alone, too.
 */
export function holdsUntil(holds: Holds, day: CalendarDate): CalendarDate | null {
  switch (holds.for) {
    case 'event':
      return null;
    case 'year':
      return `${day.slice(0, 4)}-12-31`;
    case 'season': {
      const ends = `${day.slice(0, 4)}-${holds.ends}`;
      return ends >= day ? ends : `${Number(day.slice(0, 4)) + 1}-${holds.ends}`;
    }
    case 'until':
      return holds.date >= day ? holds.date : null;
  }
}

/**
 * From when a signature holds: the day it was given, or the first day of the time it is for where that is later. Signed in December for
 * January of a calendar year, it does not hold in December.
 */
export function holdsFrom(holds: Holds, signedOn: CalendarDate, day: CalendarDate): CalendarDate {
  const begins =
    holds.for === 'year'
      ? `${day.slice(0, 4)}-01-01`
      : holds.for === 'season'
        ? shiftDate(`${Number(holdsUntil(holds, day)!.slice(0, 4)) - 1}-${holds.ends}`, 1)
        : signedOn;
  return begins > signedOn ? begins : signedOn;
}
