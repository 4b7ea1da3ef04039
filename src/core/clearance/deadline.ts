import type { CalendarDate } from '#core/time/clock.ts';
import { daysBetween, shiftDate } from '#core/time/wallTime.ts';
import { isWorkingDay, workingDaysBefore } from '#core/time/workingDays.ts';
import type { NeededStep } from './rules.ts';

export interface SubmitDeadline {
  /** The last working day on which the plan can be sent. */
  date: CalendarDate;
  /** Working days the longest path of steps takes. */
  stepDays: number;
  why: string;
  /** Days left from today; negative is late. */
  daysLeft: number;
}

/** Working days of the longest path: steps of equal order run side by side, orders one after another. */
export function longestPath(steps: readonly NeededStep[]): number {
  const byOrder = new Map<number, number>();
  for (const { rule } of steps)
    byOrder.set(rule.order, Math.max(byOrder.get(rule.order) ?? 0, rule.workingDays));
  return [...byOrder.values()].reduce((sum, days) => sum + days, 0);
}

/**
 * The last day to send a plan for clearance: all steps have to be through `minimumNoticeDays` calendar days before
 * the event, and they take working days, which holidays and weekends are not.
 */
export function lastDayToSubmit(
  eventDate: CalendarDate,
  steps: readonly NeededStep[],
  minimumNoticeDays: number,
  holidays: readonly CalendarDate[],
  today: CalendarDate,
): SubmitDeadline {
  const stepDays = longestPath(steps);
  const clearedBy = shiftDate(eventDate, -minimumNoticeDays);
  let date = workingDaysBefore(clearedBy, stepDays, holidays);
  while (!isWorkingDay(date, holidays)) date = shiftDate(date, -1);
  return {
    date,
    stepDays,
    daysLeft: daysBetween(today, date),
    why: `cleared ${minimumNoticeDays} days before the event, and the steps take ${stepDays} working days`,
  };
}
