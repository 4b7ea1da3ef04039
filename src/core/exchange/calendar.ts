import ICAL from 'ical.js';
import type { CalendarDate, Instant } from '#core/time/clock.ts';
import { shiftDate } from '#core/time/dates.ts';
import { oneLine } from '#core/words/text.ts';

/** One entry of a calendar file. */
export interface CalendarEntry {
  uid: string;
  startsAt: Instant;
  endsAt: Instant | null;
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
/** Line ends of any kind as the one that calendars know. */
const lines = (text: string): string => text.replace(/\r\n|[\r\n\u0085\u2028\u2029]/gu, '\n');

/** Writes an iCalendar file (RFC 5545) with times in UTC. */
export function writeCalendar(name: string, entries: readonly CalendarEntry[], stamp: Instant): string {
  const calendar = new ICAL.Component('vcalendar');
  calendar.addPropertyWithValue('version', '2.0');
  calendar.addPropertyWithValue('prodid', '-//Acolyte//Events//EN');
  calendar.addPropertyWithValue('calscale', 'GREGORIAN');
  // Not in the library's list of properties (RFC 7986 section 5.1): without a type it would not be escaped.
  const title = new ICAL.Property('name');
  title.resetType('text');
  title.setValue(lines(name));
  calendar.addProperty(title);
  for (const entry of entries) {
    const event = new ICAL.Component('vevent');
    const put = (property: string, value: string | number | ICAL.Time | null | undefined) => {
      if (value !== null && value !== undefined && value !== '') event.addPropertyWithValue(property, value);
    };
    put('uid', entry.uid);
    put('dtstamp', utc(stamp));
    put('sequence', entry.sequence);
    put('dtstart', entry.days ? day(entry.days.first) : utc(entry.startsAt));
    // The end of whole days is the day after (RFC 5545 section 3.6.1).
    put('dtend', entry.days ? day(shiftDate(entry.days.last, 1)) : entry.endsAt && utc(entry.endsAt));
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
