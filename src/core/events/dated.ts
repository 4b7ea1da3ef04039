import type { CalendarDate, WallTime } from '#core/time/clock.ts';
import { daysBetween, minuteOf } from '#core/time/dates.ts';
import { shiftWall } from '#core/time/wallTime.ts';

/** The times of an event, as wall times of its place. They stay as they are when the zone changes. */
export interface EventTimes {
  startsLocal: WallTime | null;
  endsLocal: WallTime | null;
  doorsLocal: WallTime | null;
  registrationClosesLocal: WallTime | null;
}
export const eventTimes = ['startsLocal', 'endsLocal', 'doorsLocal', 'registrationClosesLocal'] as const;

const dayOf = (wall: WallTime): CalendarDate => wall.slice(0, 10);

/**
 * A wall time that hangs on an event, after its start moved: it keeps its time of day and its distance in days. Where the
 * start only changed its time of day, everything else stays.
 */
export const moveWall = (wall: WallTime, from: WallTime, to: WallTime): WallTime =>
  shiftWall(wall, { days: daysBetween(dayOf(from), dayOf(to)) });

/** The times of an event after its start moved. Without a start before or after there is nothing to keep a distance to. */
export function moveTimes(times: EventTimes, startsLocal: WallTime | null): EventTimes {
  const from = times.startsLocal;
  if (!from || !startsLocal) return { ...times, startsLocal };
  const move = (wall: WallTime | null) => wall && moveWall(wall, from, startsLocal);
  return {
    startsLocal,
    endsLocal: move(times.endsLocal),
    doorsLocal: move(times.doorsLocal),
    registrationClosesLocal: move(times.registrationClosesLocal),
  };
}

/** A wall time that goes along by the clock when a start is put from one wall time to another. */
export const shiftAlong = (wall: WallTime, from: WallTime, to: WallTime): WallTime =>
  shiftWall(wall, { minutes: minuteOf(to) - minuteOf(from) });

/**
 * The times of an event put to another start as a whole: its end and its doors move along by the clock, so that it is as
 * long as before; the end of registration keeps its time of day.
 */
export function putAt(times: EventTimes & { startsLocal: WallTime }, startsLocal: WallTime): EventTimes {
  const along = (wall: WallTime | null) => wall && shiftAlong(wall, times.startsLocal, startsLocal);
  return {
    ...moveTimes(times, startsLocal),
    endsLocal: along(times.endsLocal),
    doorsLocal: along(times.doorsLocal),
  };
}
