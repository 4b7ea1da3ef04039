import type { CalendarDate } from '#core/time/clock.ts';
import { daysBetween, shiftDate } from '#core/time/dates.ts';
import { lastWorkingDayBy, workingDaysAfter, workingDaysBefore } from '#core/time/workingDays.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import type { NeededStep } from './rules.ts';

export interface SubmitDeadline {
  /** The last working day on which the plan can be sent. */
  date: CalendarDate;
  /** Working days the longest path of steps takes. */
  stepDays: number;
  why: Reason;
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
  // Nobody decides on a day off: what has to be through by a Sunday is through by the Friday.
  const clearedBy = lastWorkingDayBy(shiftDate(eventDate, -minimumNoticeDays), holidays);
  const date = lastWorkingDayBy(workingDaysBefore(clearedBy, stepDays, holidays), holidays);
  return {
    date,
    stepDays,
    daysLeft: daysBetween(today, date),
    why: because('time for clearance', { notice: minimumNoticeDays, working: stepDays }),
  };
}

/**
 * By when each step should be decided if the plan is sent on a day and nobody is late: steps of one order begin
 * together, those of the next on the day the slowest before them is due.
 */
export function dueDates(
  steps: readonly NeededStep[],
  sentOn: CalendarDate,
  holidays: readonly CalendarDate[],
): CalendarDate[] {
  const orders = [...new Set(steps.map((s) => s.rule.order))].sort((a, b) => a - b);
  const begins = new Map<number, CalendarDate>();
  let begin = sentOn;
  for (const order of orders) {
    begins.set(order, begin);
    const longest = Math.max(...steps.filter((s) => s.rule.order === order).map((s) => s.rule.workingDays));
    begin = workingDaysAfter(begin, longest, holidays);
  }
  return steps.map(({ rule }) => workingDaysAfter(begins.get(rule.order)!, rule.workingDays, holidays));
}
