import type { CalendarDate } from '#core/time/clock.ts';

/** Some days on which somebody is away, the first and the last of them. */
export interface Absence {
  from: CalendarDate;
  until: CalendarDate;
}

/** True on the days of an absence, the last one too. */
export const isAway = ({ from, until }: Absence, date: CalendarDate): boolean =>
  from <= date && date <= until;

/** True when two absences have a day in common. */
export const overlap = (a: Absence, b: Absence): boolean => a.from <= b.until && b.from <= a.until;
