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

/**
 * Remembers what was answered: calendars ask about the same times over and over, and one answer takes as long as a hundred
 * remembered ones. Past `most` it begins anew.
 */
function remembering<T>(answer: (time: string, zone: Zone) => T, most = 10_000): typeof answer {
  const known = new Map<string, T>();
  return (time, zone) => {
    const name = `${time} ${zone}`;
    const before = known.get(name);
    if (before !== undefined) return before;
    const now = answer(time, zone);
    if (known.size >= most) known.clear();
    known.set(name, now);
    return now;
  };
}

const asInstant = (zoned: Temporal.ZonedDateTime): Instant => new Date(zoned.epochMilliseconds).toISOString();
const asWall = (plain: Temporal.PlainDateTime): WallTime => plain.toString({ smallestUnit: 'minute' });

/** Zones that were found to be some: asking takes long, and there are a few hundred. */
const zones = new Set<string>();

/** True for an IANA zone name this machine knows. */
export function isZone(zone: string): boolean {
  if (zones.has(zone)) return true;
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    zones.add(zone);
    return true;
  } catch {
    return false;
  }
}

/** A zone as somebody’s device says it; null where it says none that is known. */
export const zoneOrNone = (zone: string): Zone | null => (zone && isZone(zone) ? zone : null);

/**
 * Finds what a wall time means in a zone, without guessing.
 * For a removed time, `before` and `after` are the nearest wall times that exist, by the two readings
 * RFC 5545 section 3.3.5 distinguishes (offset before and after the change).
 */
export const meaningOf = remembering((wall: WallTime, zone: Zone): Readonly<WallMeaning> => {
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
});

/**
 * The instant of a wall time, choosing where a clock change leaves a choice: a repeated time is its first
 * occurrence and a removed time is read with the offset in force before the change (RFC 5545 section 3.3.5).
 */
export const instantOf = remembering(
  (wall: WallTime, zone: Zone): Instant =>
    asInstant(Temporal.PlainDateTime.from(wall).toZonedDateTime(zone, { disambiguation: 'compatible' })),
);

/** The same, where a time that a clock change repeats is meant the second time round. */
export function laterInstantOf(wall: WallTime, zone: Zone): Instant {
  const meaning = meaningOf(wall, zone);
  return meaning.kind === 'repeated' ? meaning.second : instantOf(wall, zone);
}

/** The wall time an instant shows in a zone, to the minute. */
export const wallOf = remembering(
  (at: Instant, zone: Zone): WallTime =>
    asWall(Temporal.Instant.from(at).toZonedDateTimeISO(zone).toPlainDateTime()),
);

/** An instant as the clock on the wall shows it there, with its offset: `2026-08-08T09:00:00-03:00` (RFC 3339). */
export function withOffset(at: Instant, zone: Zone): string {
  const zoned = Temporal.Instant.from(at).toZonedDateTimeISO(zone);
  return `${zoned.toPlainDateTime().toString({ smallestUnit: 'second' })}${zoned.offset}`;
}

/** The calendar date an instant falls on in a zone. */
export function dateOf(at: Instant, zone: Zone): CalendarDate {
  return wallOf(at, zone).slice(0, 10);
}

/** Moves a wall time by whole days, hours and minutes of the calendar, ignoring clock changes. */
export function shiftWall(wall: WallTime, by: { days?: number; hours?: number; minutes?: number }): WallTime {
  return asWall(Temporal.PlainDateTime.from(wall).add(by));
}
