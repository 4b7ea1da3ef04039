import type { CalendarDate, WallTime } from '#core/time/clock.ts';
import { type EventTimes, moveTimes, moveWall } from './dated.ts';

/** What of an event moves with its date when it is copied. */
export interface Dated extends EventTimes {
  shifts: readonly { startsLocal: WallTime; endsLocal: WallTime }[];
}

export interface MovedCopy extends EventTimes {
  shifts: { startsLocal: WallTime; endsLocal: WallTime }[];
  /** What was not taken along, and why. */
  leftBehind: string[];
}

const undated: EventTimes = {
  startsLocal: null,
  endsLocal: null,
  doorsLocal: null,
  registrationClosesLocal: null,
};

/**
 * Moves everything dated of an event to a new start date, keeping wall times and distances in days.
 * Without a new date nothing dated is taken along: no date is ever filled in by default, and shifts are kept as
 * undated only when there is a date to hang them on.
 */
export function moveCopy(from: Dated, toDate: CalendarDate | null): MovedCopy {
  const leftBehind = [
    'registrations, payments and attendance: they belong to that date',
    'clearance: the new plan needs its own',
  ];
  if (!toDate || !from.startsLocal) {
    if (from.startsLocal) leftBehind.push('date and times: no date was given for the copy');
    if (from.shifts.length)
      leftBehind.push(`${from.shifts.length} shifts: they need a date; copy again with one, or add them`);
    return { ...undated, shifts: [], leftBehind };
  }
  const start = from.startsLocal;
  const startsLocal = `${toDate}T${start.slice(11)}`;
  if (from.shifts.length) leftBehind.push('who was on each shift: everybody is asked anew');
  return {
    ...moveTimes(from, startsLocal),
    shifts: from.shifts.map((s) => ({
      startsLocal: moveWall(s.startsLocal, start, startsLocal),
      endsLocal: moveWall(s.endsLocal, start, startsLocal),
    })),
    leftBehind,
  };
}
