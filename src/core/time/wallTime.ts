import { Temporal } from 'temporal-polyfill';
import type { CalendarDate, Instant, WallTime, Zone } from './clock.ts';

/**
 * What a wall time means in a zone.
 * `exact` is the usual case; a clock change can remove a wall time (`gap`) or repeat it (`repeated`).
 */
export type WallMeaning =
  | { kind: 'exact'; instant: Instant }
  | { kind: 'gap'; before: WallTime; after: WallTime }
  | { kind: 'repeated'; first: Instant; second: Instant };

const asInstant = (zoned: Temporal.ZonedDateTime): Instant => new Date(zoned.epochMilliseconds).toISOString();
const asWall = (plain: Temporal.PlainDateTime): WallTime => plain.toString({ smallestUnit: 'minute' });

/** True for an IANA zone name this machine knows. */
export function isZone(zone: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    return true;
  } catch {
    return false;
  }
}

/**
 * Finds what a wall time means in a zone, without guessing.
 * For a removed time, `before` and `after` are the nearest wall times that exist, by the two readings
 * RFC 5545 section 3.3.5 distinguishes (offset before and after the change).
 */
export function meaningOf(wall: WallTime, zone: Zone): WallMeaning {
  const plain = Temporal.PlainDateTime.from(wall);
  const earlier = plain.toZonedDateTime(zone, { disambiguation: 'earlier' });
  const afterwards = plain.toZonedDateTime(zone, { disambiguation: 'later' });
  if (earlier.epochMilliseconds === afterwards.epochMilliseconds)
    return { kind: 'exact', instant: asInstant(earlier) };
  if (!earlier.toPlainDateTime().equals(plain))
    return {
      kind: 'gap',
      before: asWall(earlier.toPlainDateTime()),
      after: asWall(afterwards.toPlainDateTime()),
    };
  return { kind: 'repeated', first: asInstant(earlier), second: asInstant(afterwards) };
}

/**
 * The instant of a wall time, choosing where a clock change leaves a choice: a repeated time is its first
 * occurrence and a removed time is read with the offset in force before the change (RFC 5545 section 3.3.5).
 */
export function instantOf(wall: WallTime, zone: Zone): Instant {
  return asInstant(Temporal.PlainDateTime.from(wall).toZonedDateTime(zone, { disambiguation: 'compatible' }));
}

/** The wall time an instant shows in a zone, to the minute. */
export function wallOf(at: Instant, zone: Zone): WallTime {
  return asWall(Temporal.Instant.from(at).toZonedDateTimeISO(zone).toPlainDateTime());
}

/** The calendar date an instant falls on in a zone. */
export function dateOf(at: Instant, zone: Zone): CalendarDate {
  return wallOf(at, zone).slice(0, 10);
}

/** True for a day that exists, written `2026-08-08`, in the years 1800 to 2199: the calendar before is another. */
export function isCalendarDate(text: string): text is CalendarDate {
  return (
    /^(?:1[89]|2[01])\d\d-\d\d-\d\d$/u.test(text) &&
    !Number.isNaN(Date.parse(`${text}T00:00Z`)) &&
    new Date(`${text}T00:00Z`).toISOString().startsWith(text)
  );
}

/** Moves a wall time by whole days, hours and minutes of the calendar, ignoring clock changes. */
export function shiftWall(wall: WallTime, by: { days?: number; hours?: number; minutes?: number }): WallTime {
  return asWall(Temporal.PlainDateTime.from(wall).add(by));
}

const day = 86_400_000;

/** Moves a date by whole days. */
export function shiftDate(date: CalendarDate, days: number): CalendarDate {
  return new Date(Date.parse(`${date}T00:00Z`) + days * day).toISOString().slice(0, 10);
}

/** Whole days from one date to another; negative when `to` is earlier. Plain arithmetic, so that public pages need no calendar library. */
export function daysBetween(from: CalendarDate, to: CalendarDate): number {
  return Math.round((Date.parse(`${to}T00:00Z`) - Date.parse(`${from}T00:00Z`)) / day);
}

/** Completed years of age on a date. Somebody born on 29 February turns a year older on 1 March. */
export function ageOn(birthDate: CalendarDate, date: CalendarDate): number {
  const [by, bm, bd] = birthDate.split('-').map(Number) as [number, number, number];
  const [y, m, d] = date.split('-').map(Number) as [number, number, number];
  return y - by - (m < bm || (m === bm && d < bd) ? 1 : 0);
}
