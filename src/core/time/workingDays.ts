import { Temporal } from 'temporal-polyfill';
import type { CalendarDate } from './clock.ts';
import { shiftDate } from './dates.ts';

/** True on Monday to Friday, except on the holidays given. */
export function isWorkingDay(date: CalendarDate, holidays: readonly CalendarDate[]): boolean {
  return Temporal.PlainDate.from(date).dayOfWeek <= 5 && !holidays.includes(date);
}

/** The date itself where it is a working day, else the last one before it. */
export function lastWorkingDayBy(date: CalendarDate, holidays: readonly CalendarDate[]): CalendarDate {
  return isWorkingDay(date, holidays) ? date : workingDaysBefore(date, 1, holidays);
}

/**
 * The date that leaves `days` whole working days before `date`: counting back from the day before it.
 * Zero days gives `date` itself. `days` must be a whole number from 0 to 400.
 */
export function workingDaysBefore(
  date: CalendarDate,
  days: number,
  holidays: readonly CalendarDate[],
): CalendarDate {
  return walk(date, days, holidays, -1);
}

/** The date on which the `days`-th working day after `date` falls. Zero days gives `date` itself. */
export function workingDaysAfter(
  date: CalendarDate,
  days: number,
  holidays: readonly CalendarDate[],
): CalendarDate {
  return walk(date, days, holidays, 1);
}

/** How many working days follow a date up to and with another; none where that is not later. */
export function workingDaysBetween(
  date: CalendarDate,
  until: CalendarDate,
  holidays: readonly CalendarDate[],
): number {
  let days = 0;
  for (let at = shiftDate(date, 1); at <= until; at = shiftDate(at, 1))
    if (isWorkingDay(at, holidays)) days += 1;
  return days;
}

function walk(
  from: CalendarDate,
  days: number,
  holidays: readonly CalendarDate[],
  step: 1 | -1,
): CalendarDate {
  if (!Number.isInteger(days) || days < 0 || days > 400) throw new RangeError('days must be 0 to 400');
  let date = from;
  for (let left = days; left > 0; ) {
    date = shiftDate(date, step);
    if (isWorkingDay(date, holidays)) left -= 1;
  }
  return date;
}
