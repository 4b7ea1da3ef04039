import ICAL from 'ical.js';
import type { CalendarDate, Instant, Zone } from '#core/time/clock.ts';
import { shiftDate } from '#core/time/dates.ts';
import { instantOf, wallOf } from '#core/time/wallTime.ts';
import { oneLine } from '#core/words/text.ts';
import { timeZoneOf } from './timeZone.ts';

/** One entry of a calendar file. */
export interface CalendarEntry {
  uid: string;
  startsAt: Instant;
  endsAt: Instant | null;
  /** Where the clock on the wall is the one that counts: it keeps its wall time there whatever the zone decides. */
  zone: Zone;
  /** Of whole days: the first and the last, in place of the times (RFC 5545 section 3.3.4). */
  days?: { first: CalendarDate; last: CalendarDate } | undefined;
  summary: string;
  description?: string;
  location?: string;
  url?: string;
  /** Rises with every change, so that calendars take the newer one (RFC 5545 section 3.8.7.4). */
  sequence: number;
  cancelled?: boolean;
}

const day = (date: CalendarDate): ICAL.Time => ICAL.Time.fromDateString(date);
const utc = (at: Instant): ICAL.Time => ICAL.Time.fromJSDate(new Date(at), true);
/** True where a clock change repeats a time of day after `at`: by an hour, or by half of one as on Lord Howe Island. */
const comesAgain = (at: Instant, wall: string, zone: Zone): boolean =>
  [30, 60].some(
    (minutes) => wallOf(new Date(Date.parse(at) + minutes * 60_000).toISOString(), zone) === wall,
  );

/** Line ends of any kind as the one that calendars know. */
const lines = (text: string): string => text.replace(/\r\n|[\r\n\u0085\u2028\u2029]/gu, '\n');

/**
 * A time as people say it, with its zone, so that it stays at its time of day (RFC 5545 section 3.3.5). One that a clock change
 * repeats is the first there, which not every reader knows: both are told in UTC.
 */
function timed(event: ICAL.Component, name: 'dtstart' | 'dtend', at: Instant, zone: Zone): void {
  const wall = wallOf(at, zone);
  const property = new ICAL.Property(name);
  if (zone === 'UTC' || Date.parse(instantOf(wall, zone)) !== Date.parse(at) || comesAgain(at, wall, zone))
    property.setValue(utc(at));
  else {
    property.setValue(ICAL.Time.fromDateTimeString(`${wall}:00`));
    property.setParameter('tzid', zone);
  }
  event.addProperty(property);
}

/**
 * Writes an iCalendar file (RFC 5545). Times stand in the zone of their place, with a VTIMEZONE for each; `everyHours` tells
 * calendars that subscribe how often to look (RFC 7986 section 5.7).
 */
export function writeCalendar(
  name: string,
  entries: readonly CalendarEntry[],
  stamp: Instant,
  everyHours?: number,
): string {
  const calendar = new ICAL.Component('vcalendar');
  calendar.addPropertyWithValue('version', '2.0');
  calendar.addPropertyWithValue('prodid', '-//Acolyte//Events//EN');
  calendar.addPropertyWithValue('calscale', 'GREGORIAN');
  // Not in the library's list of properties (RFC 7986 section 5.1): without a type it would not be escaped.
  const title = new ICAL.Property('name');
  title.resetType('text');
  title.setValue(lines(name));
  calendar.addProperty(title);
  if (everyHours) {
    const interval = new ICAL.Property('refresh-interval');
    interval.resetType('duration');
    interval.setValue(ICAL.Duration.fromString(`PT${everyHours}H`));
    calendar.addProperty(interval);
  }
  const timely = entries.filter((e) => !e.days);
  for (const zone of new Set(timely.map((e) => e.zone))) {
    const times = timely.filter((e) => e.zone === zone).flatMap((e) => [e.startsAt, e.endsAt ?? e.startsAt]);
    if (zone !== 'UTC') calendar.addSubcomponent(timeZoneOf(zone, times.sort()[0]!, times.sort().at(-1)!));
  }
  for (const entry of entries) {
    const event = new ICAL.Component('vevent');
    const put = (property: string, value: string | number | ICAL.Time | null | undefined) => {
      if (value !== null && value !== undefined && value !== '') event.addPropertyWithValue(property, value);
    };
    put('uid', entry.uid);
    put('dtstamp', utc(stamp));
    put('sequence', entry.sequence);
    if (entry.days) {
      put('dtstart', day(entry.days.first));
      // The end of whole days is the day after (RFC 5545 section 3.6.1).
      put('dtend', day(shiftDate(entry.days.last, 1)));
    } else {
      timed(event, 'dtstart', entry.startsAt, entry.zone);
      if (entry.endsAt) timed(event, 'dtend', entry.endsAt, entry.zone);
    }
    put('summary', lines(entry.summary));
    put('description', entry.description && lines(entry.description));
    put('location', entry.location && lines(entry.location));
    put('url', entry.url && oneLine(entry.url));
    put('status', entry.cancelled ? 'CANCELLED' : 'CONFIRMED');
    calendar.addSubcomponent(event);
  }
  return `${calendar.toString()}\r\n`;
}

/** Folds a content line at 75 octets without splitting a character (RFC 5545 section 3.1). */
export const foldLine = (line: string): string => ICAL.helpers.foldline(line);
