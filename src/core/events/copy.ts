import type { CalendarDate, WallTime } from '#core/time/clock.ts';
import { shiftWall } from '#core/time/wallTime.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import { type EventTimes, moveTimes, moveWall, putAt, shiftAlong } from './dated.ts';

interface ShiftTimes {
  startsLocal: WallTime;
  endsLocal: WallTime;
}

/** What of an event hangs on its date. */
export interface Dated<Shift extends ShiftTimes = ShiftTimes> extends EventTimes {
  shifts: readonly Shift[];
}

/** The same, kept around another start until a copy is given its own. */
export interface Waiting<Shift extends ShiftTimes = ShiftTimes> extends Dated<Shift> {
  startsLocal: WallTime;
}

export interface MovedCopy<Shift extends ShiftTimes = ShiftTimes> extends EventTimes {
  shifts: Shift[];
  /** What waits for a date; null where there is one, or nothing that hangs on it. */
  waits: Waiting<Shift> | null;
  /** What was not taken along, and why. */
  leftBehind: Reason[];
}

const undated: EventTimes = {
  startsLocal: null,
  endsLocal: null,
  doorsLocal: null,
  registrationClosesLocal: null,
};

const moveShifts = <Shift extends ShiftTimes>(
  shifts: readonly Shift[],
  from: WallTime,
  to: WallTime,
): Shift[] =>
  shifts.map((s) => ({
    ...s,
    startsLocal: moveWall(s.startsLocal, from, to),
    endsLocal: moveWall(s.endsLocal, from, to),
  }));

/**
 * Moves everything dated of an event to a new start, keeping wall times and distances in days; a start at another time of day
 * takes along what goes by the clock. Without a new date no date is filled in, and nothing is lost: what is dated waits. `waits`
 * is what an event without a date of its own had waiting.
 */
export function moveCopy<Shift extends ShiftTimes>(
  from: Dated<Shift>,
  to: CalendarDate | WallTime | null,
  waits: Waiting<Shift> | null = null,
): MovedCopy<Shift> {
  const { startsLocal: start, endsLocal, doorsLocal, registrationClosesLocal, shifts } = from;
  const base: Waiting<Shift> | null = start
    ? { startsLocal: start, endsLocal, doorsLocal, registrationClosesLocal, shifts }
    : waits;
  const leftBehind: Reason[] = [because('left: registrations'), because('left: clearance')];
  if (base?.shifts.length) leftBehind.push(because('left: crew', { count: base.shifts.length }));
  if (!base || !to) return { ...undated, shifts: [], waits: base, leftBehind };
  const startsLocal = to.length > 10 ? to : `${to}T${base.startsLocal.slice(11)}`;
  const along = (wall: WallTime) => shiftAlong(wall, base.startsLocal, startsLocal);
  return {
    ...putAt(base, startsLocal),
    shifts: base.shifts.map((s) => ({
      ...s,
      startsLocal: along(s.startsLocal),
      endsLocal: along(s.endsLocal),
    })),
    waits: null,
    leftBehind,
  };
}

/**
 * What waited, once the start is known. Times that were given meanwhile stay; one that waited and no longer fits the start (an
 * end before it, doors after it) is let go rather than refused.
 */
export function arrive<Shift extends ShiftTimes>(
  waits: Waiting<Shift>,
  given: EventTimes & { startsLocal: WallTime },
): Dated<Shift> {
  const { startsLocal } = given;
  const moved = moveTimes(waits, startsLocal);
  const fits = (wall: WallTime | null, ok: (wall: WallTime) => boolean) => (wall && ok(wall) ? wall : null);
  const endsLocal = given.endsLocal ?? fits(moved.endsLocal, (w) => w > startsLocal);
  const dayBefore = shiftWall(startsLocal, { days: -1 });
  return {
    startsLocal,
    endsLocal,
    doorsLocal: given.doorsLocal ?? fits(moved.doorsLocal, (w) => w <= startsLocal && w >= dayBefore),
    registrationClosesLocal:
      given.registrationClosesLocal ??
      fits(moved.registrationClosesLocal, (w) => w <= (endsLocal ?? startsLocal)),
    shifts: moveShifts(waits.shifts, waits.startsLocal, startsLocal),
  };
}
