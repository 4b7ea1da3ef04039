import type { CalendarDate, WallTime } from './clock.ts';

// Plain arithmetic on calendar dates: public pages need no calendar library for it.

/** True for a day that exists, written `2026-08-08`, in the years 1800 to 2199: the calendar before is another. */
export function isCalendarDate(text: string): text is CalendarDate {
  return (
    /^(?:1[89]|2[01])\d\d-\d\d-\d\d$/u.test(text) &&
    !Number.isNaN(Date.parse(`${text}T00:00Z`)) &&
    new Date(`${text}T00:00Z`).toISOString().startsWith(text)
  );
}

const day = 86_400_000;

/** Moves a date by whole days. */
export function shiftDate(date: CalendarDate, days: number): CalendarDate {
  return new Date(Date.parse(`${date}T00:00Z`) + days * day).toISOString().slice(0, 10);
}

/** Whole days from one date to another; negative when `to` is earlier. */
export function daysBetween(from: CalendarDate, to: CalendarDate): number {
  return Math.round((Date.parse(`${to}T00:00Z`) - Date.parse(`${from}T00:00Z`)) / day);
}

/** A wall time in minutes since the beginning of 1970, as if the clock never changed: what stands on the clock, to be compared. */
export const minuteOf = (wall: WallTime): number => Date.parse(`${wall}:00Z`) / 60_000;

/** The day of the week of a date, 0 for Sunday. */
export const weekdayNumber = (date: CalendarDate): number => new Date(`${date}T00:00Z`).getUTCDay();

/** Completed years of age on a date. Somebody born on 29 February turns a year older on 1 March. */
export function ageOn(birthDate: CalendarDate, date: CalendarDate): number {
  const [by, bm, bd] = birthDate.split('-').map(Number) as [number, number, number];
  const [y, m, d] = date.split('-').map(Number) as [number, number, number];
  return y - by - (m < bm || (m === bm && d < bd) ? 1 : 0);
}
