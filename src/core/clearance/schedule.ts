import type { CalendarDate } from '#core/time/clock.ts';
import { daysBetween, shiftDate } from '#core/time/dates.ts';
import {
  lastWorkingDayBy,
  workingDaysAfter,
  workingDaysBefore,
  workingDaysBetween,
} from '#core/time/workingDays.ts';
import { because, type Reason } from '#core/words/reasons.ts';

/** A step as far as time goes. One that is decided takes no more days. */
export interface TimedStep {
  id: string;
  after: readonly string[];
  workingDays: number;
}

export interface StepTime {
  /** The day by which it should be decided, if nobody is late. */
  dueOn: CalendarDate;
  /** How many working days it can take longer without the whole being later. */
  slack: number;
}

export interface ClearanceTime {
  /** Working days the longest path takes. */
  working: number;
  /** When all steps are through, if nobody is late. */
  clearedOn: CalendarDate;
  steps: ReadonlyMap<string, StepTime>;
  /** The steps of the longest path, in their order: what holds things up. */
  path: string[];
}

/**
 * When steps are due from a day on, by the longest path (critical path method: the forward pass gives the earliest end of each
 * step, the backward pass the latest that does not delay the whole; the difference is its slack). All in working days.
 */
export function timeOf(
  steps: readonly TimedStep[],
  from: CalendarDate,
  holidays: readonly CalendarDate[],
): ClearanceTime {
  const byId = new Map(steps.map((s) => [s.id, s]));
  const ends = new Map<string, number>();
  const endOf = (s: TimedStep): number => {
    const known = ends.get(s.id);
    if (known !== undefined) return known;
    const begins = Math.max(0, ...s.after.flatMap((id) => (byId.has(id) ? [endOf(byId.get(id)!)] : [])));
    ends.set(s.id, begins + s.workingDays);
    return begins + s.workingDays;
  };
  const working = Math.max(0, ...steps.map(endOf));
  const latest = new Map<string, number>();
  const latestOf = (s: TimedStep): number => {
    const known = latest.get(s.id);
    if (known !== undefined) return known;
    const those = steps.filter((next) => next.after.includes(s.id));
    const end = Math.min(working, ...those.map((next) => latestOf(next) - next.workingDays));
    latest.set(s.id, end);
    return end;
  };
  // From the end backwards: each time one that it waits for and that ends when it begins.
  const path: string[] = [];
  let last = steps.find((s) => endOf(s) === working);
  while (last) {
    const { id, after, workingDays } = last;
    path.unshift(id);
    const begins: number = endOf(last) - workingDays;
    last = steps.find((s) => after.includes(s.id) && endOf(s) === begins && !path.includes(s.id));
  }
  const day = (n: number): CalendarDate => workingDaysAfter(from, n, holidays);
  return {
    working,
    clearedOn: day(working),
    path,
    steps: new Map(steps.map((s) => [s.id, { dueOn: day(endOf(s)), slack: latestOf(s) - endOf(s) }])),
  };
}

/** A step under way. */
export interface RunningStep extends TimedStep {
  /** The day it is due, once it is with its approver; null as long as it waits. */
  dueOn: CalendarDate | null;
}

/**
 * The same for steps that are still to be decided, as they stand on a day: who has one already has until it is due, and who is
 * late decides today.
 */
export const runningTime = (
  steps: readonly RunningStep[],
  today: CalendarDate,
  holidays: readonly CalendarDate[],
): ClearanceTime =>
  timeOf(
    steps.map((s) =>
      s.dueOn === null ? s : { ...s, workingDays: workingDaysBetween(today, s.dueOn, holidays) },
    ),
    today,
    holidays,
  );

export interface SubmitDeadline {
  /** The last working day on which the plan can be sent. */
  date: CalendarDate;
  /** Working days the longest path of steps takes. */
  stepDays: number;
  /** When all has to be through. */
  clearedBy: CalendarDate;
  why: Reason;
  /** Days left from today; negative is late. */
  daysLeft: number;
}

/**
 * The last day to send a plan for clearance: all steps have to be through `minimumNoticeDays` calendar days before
 * the event, and they take working days, which holidays and weekends are not.
 */
export function lastDayToSend(
  eventDate: CalendarDate,
  working: number,
  minimumNoticeDays: number,
  holidays: readonly CalendarDate[],
  today: CalendarDate,
): SubmitDeadline {
  // Nobody decides on a day off: what has to be through by a Sunday is through by the Friday.
  const clearedBy = lastWorkingDayBy(shiftDate(eventDate, -minimumNoticeDays), holidays);
  const date = lastWorkingDayBy(workingDaysBefore(clearedBy, working, holidays), holidays);
  return {
    date,
    stepDays: working,
    clearedBy,
    daysLeft: daysBetween(today, date),
    why: because('time for clearance', { notice: minimumNoticeDays, working }),
  };
}
