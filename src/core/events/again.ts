import type { CalendarDate } from '#core/time/clock.ts';
import { daysBetween, shiftDate, weekdayNumber } from '#core/time/dates.ts';

/** Which of its weekdays in the month a date is: the first to the fourth, or the last where there is no fifth to follow. */
export type Ordinal = 1 | 2 | 3 | 4 | 'last';

/** A date on which an event could take place again. */
export interface Proposal {
  date: CalendarDate;
  /** The same weekday at the same time of the year, or the same weekday of a month: "the first Wednesday". */
  kind: 'year' | 'month';
  ordinal: Ordinal;
  /** Whether nothing else takes place at its place that day. */
  free: boolean;
}

/** How many months ahead a free one is looked for. */
const monthsAhead = 18;

const lengthOfMonth = (date: CalendarDate): number =>
  new Date(Date.UTC(Number(date.slice(0, 4)), Number(date.slice(5, 7)), 0)).getUTCDate();
const written = (year: number, month: number, day: number): CalendarDate =>
  new Date(Date.UTC(year, month - 1, day)).toISOString().slice(0, 10);

/** Which of its weekdays a date is. The fifth is the last; a fourth that no fifth follows is the fourth. */
export function ordinalOf(date: CalendarDate): Ordinal {
  const n = Math.ceil(Number(date.slice(8, 10)) / 7);
  return n > 4 ? 'last' : (n as Ordinal);
}

/** The date in a month that is the first to fourth, or the last, of a weekday (0 is Sunday). */
export function inMonth(year: number, month: number, weekday: number, ordinal: Ordinal): CalendarDate {
  const first = written(year, month, 1);
  const begin = 1 + ((weekday - weekdayNumber(first) + 7) % 7);
  if (ordinal !== 'last') return written(year, month, begin + (ordinal - 1) * 7);
  return written(year, month, begin + Math.floor((lengthOfMonth(first) - begin) / 7) * 7);
}

/**
 * The same weekday at the same time of the year, the first one after a day: of the dates with that weekday the one nearest to
 * the anniversary, never more than three days from it.
 */
export function sameTimeOfYear(date: CalendarDate, after: CalendarDate): CalendarDate {
  for (let year = Math.max(Number(after.slice(0, 4)), Number(date.slice(0, 4))); ; year += 1) {
    const month = Number(date.slice(5, 7));
    const day = Math.min(Number(date.slice(8, 10)), lengthOfMonth(written(year, month, 1)));
    const anniversary = written(year, month, day);
    const ahead = (weekdayNumber(date) - weekdayNumber(anniversary) + 7) % 7;
    const near = shiftDate(anniversary, ahead > 3 ? ahead - 7 : ahead);
    if (near > after && near > date) return near;
  }
}

/**
 * When an event could take place again: at the same time of the next year, and on the next of its weekdays in a month on which
 * its place is free. `taken` are the days on which something else takes place there.
 */
export function datesAgain(
  date: CalendarDate,
  today: CalendarDate,
  taken: ReadonlySet<CalendarDate>,
): Proposal[] {
  const ordinal = ordinalOf(date);
  const year = sameTimeOfYear(date, today);
  const proposals: Proposal[] = [{ date: year, kind: 'year', ordinal, free: !taken.has(year) }];
  const after = today > date ? today : date;
  for (let ahead = 0; ahead <= monthsAhead; ahead += 1) {
    const month = written(Number(after.slice(0, 4)), Number(after.slice(5, 7)) + ahead, 1);
    const next = inMonth(Number(month.slice(0, 4)), Number(month.slice(5, 7)), weekdayNumber(date), ordinal);
    if (next <= after || taken.has(next)) continue;
    if (daysBetween(next, year) !== 0) proposals.push({ date: next, kind: 'month', ordinal, free: true });
    break;
  }
  return proposals.sort((a, b) => (a.date < b.date ? -1 : 1));
}
