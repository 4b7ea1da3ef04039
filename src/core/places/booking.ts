import type { CalendarDate, Instant, WallTime, Zone } from '#core/time/clock.ts';
import { weekdayNumber } from '#core/time/dates.ts';
import { instantOf, shiftWall, wallOf } from '#core/time/wallTime.ts';

/** A stretch of time, without its end. */
export interface Span {
  from: Instant;
  to: Instant;
}

/** How long a place is kept for an event that says no end, in minutes. */
const minutesWithoutEnd = 120;

/** What of a place decides what is taken by being there. */
export interface Premises {
  id: string;
  /** Several events may be there at once. */
  shared: boolean;
  /** Every room that can be taken. */
  rooms: readonly string[];
  /** Minutes that are needed before an event. */
  setUpMinutes: number;
}

/** The spaces that an event takes: a room, or the whole place with every room of it. Where several may be, none is taken. */
export function spacesOf(place: Premises, roomId: string | null): string[] {
  if (place.shared) return [];
  return roomId ? [roomId] : [place.id, ...place.rooms];
}

const earlier = (a: Instant, b: Instant): Instant => (a < b ? a : b);
const shift = (at: Instant, minutes: number): Instant =>
  new Date(Date.parse(at) + minutes * 60_000).toISOString();

/** How long an event keeps its place: from setting up, or the doors, to its end. Null without a start. */
export function keptFor(
  event: { startsAt: Instant | null; endsAt: Instant | null; doorsAt: Instant | null },
  setUpMinutes: number,
): Span | null {
  const { startsAt, endsAt, doorsAt } = event;
  if (!startsAt) return null;
  return {
    from: shift(earlier(doorsAt ?? startsAt, startsAt), -setUpMinutes),
    to: endsAt && endsAt > startsAt ? endsAt : shift(startsAt, minutesWithoutEnd),
  };
}

/** True when two stretches of time have a moment in common; one that begins as the other ends has none. */
export const overlaps = (a: Span, b: Span): boolean => a.from < b.to && b.from < a.to;

/** When a place is closed. */
export interface Closed {
  /** Days of the week, 0 for Sunday. */
  weekdays: readonly number[];
  dates: readonly { from: CalendarDate; to: CalendarDate; why: string }[];
}

/** Why a place is closed on a day: a stretch of dates, or its day of the week; null where it is open. */
export function closedOn(closed: Closed, date: CalendarDate): { why: string } | { weekday: number } | null {
  const stretch = closed.dates.find((d) => d.from <= date && date <= d.to);
  if (stretch) return { why: stretch.why };
  const weekday = weekdayNumber(date);
  return closed.weekdays.includes(weekday) ? { weekday } : null;
}

/** What is looked for when a place is taken. */
export interface Wish {
  startsLocal: WallTime;
  zone: Zone;
  /** Minutes that are needed before the start, and from the start on. */
  before: number;
  long: number;
}

/** Within which hours of a day another time is proposed. */
const dayBegins = '07:00';
const dayEnds = '23:00';
const weeksAhead = 8;

/**
 * Starts at which a place would be free: on the same day the nearest before and after what is in the way, at the same time the
 * next day that is free, and the next free same weekday. `busy` is what takes the place; nothing is proposed before `now` or
 * on a day the place is closed.
 */
export function freeStarts(wish: Wish, busy: readonly Span[], closed: Closed, now: Instant): WallTime[] {
  const { startsLocal, zone, before, long } = wish;
  const spanAt = (start: Instant): Span => ({ from: shift(start, -before), to: shift(start, long) });
  const fits = (start: Instant): boolean => {
    const span = spanAt(start);
    return (
      start > now &&
      closedOn(closed, wallOf(start, zone).slice(0, 10)) === null &&
      !busy.some((b) => overlaps(b, span))
    );
  };
  const asked = instantOf(startsLocal, zone);
  const date = startsLocal.slice(0, 10);
  const inTheDay = (start: Instant): boolean => {
    const wall = wallOf(start, zone);
    const end = wallOf(shift(start, long), zone);
    return wall.slice(0, 10) === date && wall.slice(11) >= dayBegins && end <= `${date}T${dayEnds}`;
  };
  // Free stretches begin and end where something busy ends and begins.
  const after = busy
    .map((b) => quarter(shift(b.to, before), 'up'))
    .filter((s) => s > asked && inTheDay(s) && fits(s));
  const earlierToday = busy
    .map((b) => quarter(shift(b.from, -long), 'down'))
    .filter((s) => s < asked && inTheDay(s) && fits(s));
  const days = (step: number): Instant | undefined => {
    for (let n = step; n <= weeksAhead * 7; n += step) {
      const start = instantOf(shiftWall(startsLocal, { days: n }), zone);
      if (fits(start)) return start;
    }
    return undefined;
  };
  const found = [earlierToday.sort().at(-1), after.sort()[0], days(1), days(7)].filter(
    (s) => s !== undefined,
  );
  return [...new Set(found)].map((s) => wallOf(s, zone)).filter((wall) => wall !== startsLocal);
}

/** Brings a moment to a quarter of an hour. */
function quarter(at: Instant, way: 'up' | 'down'): Instant {
  const step = 15 * 60_000;
  const n = Date.parse(at) / step;
  return new Date((way === 'up' ? Math.ceil(n) : Math.floor(n)) * step).toISOString();
}
