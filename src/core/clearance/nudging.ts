import type { CalendarDate } from '#core/time/clock.ts';
import { workingDaysAfter } from '#core/time/workingDays.ts';

/** Working days between two reminders of the same step. */
const every = 2;
/** How often somebody is reminded at most: after that it is the coordinators' to see to. */
export const mostNudges = 6;

/** The day of the next reminder of a step: the day it is due, then every second working day; null after the last. */
export const nextNudge = (
  dueOn: CalendarDate,
  nudges: number,
  holidays: readonly CalendarDate[],
): CalendarDate | null => (nudges >= mostNudges ? null : workingDaysAfter(dueOn, nudges * every, holidays));

/** Whether coordinators are told too: with the second reminder, two working days after the step was due. */
export const escalates = (nudges: number): boolean => nudges === 1;
