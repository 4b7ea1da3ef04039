import type { CalendarDate, WallTime } from '#core/time/clock.ts';
import { daysBetween, shiftWall } from '#core/time/wallTime.ts';

/** What of an event moves with its date when it is copied. */
export interface Dated {
  startsLocal: WallTime | null;
  endsLocal: WallTime | null;
  doorsLocal: WallTime | null;
  shifts: readonly { startsLocal: WallTime; endsLocal: WallTime }[];
}

export interface MovedCopy {
  startsLocal: WallTime | null;
  endsLocal: WallTime | null;
  doorsLocal: WallTime | null;
  shifts: { startsLocal: WallTime; endsLocal: WallTime }[];
  /** What was not taken along, and why. */
  leftBehind: string[];
}

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
    return { startsLocal: null, endsLocal: null, doorsLocal: null, shifts: [], leftBehind };
  }
  const days = daysBetween(from.startsLocal.slice(0, 10), toDate);
  const move = (wall: WallTime | null) => (wall ? shiftWall(wall, { days }) : null);
  if (from.shifts.length) leftBehind.push('who was on each shift: everybody is asked anew');
  return {
    startsLocal: move(from.startsLocal),
    endsLocal: move(from.endsLocal),
    doorsLocal: move(from.doorsLocal),
    shifts: from.shifts.map((s) => ({
      startsLocal: shiftWall(s.startsLocal, { days }),
      endsLocal: shiftWall(s.endsLocal, { days }),
    })),
    leftBehind,
  };
}
