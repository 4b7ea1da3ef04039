import type { Instant } from '#core/time/clock.ts';

/** One entry of a calendar file. */
export interface CalendarEntry {
  uid: string;
  startsAt: Instant;
  endsAt: Instant | null;
  summary: string;
  description?: string;
  location?: string;
  url?: string;
  /** Rises with every change, so that calendars take the newer one (RFC 5545 section 3.8.7.4). */
  sequence: number;
  cancelled?: boolean;
}

const utc = (at: Instant): string => at.replace(/[-:]/gu, '').replace(/\.\d+/u, '');
const escapeText = (text: string): string =>
  text
    .replaceAll('\\', '\\\\')
    .replaceAll(';', '\\;')
    .replaceAll(',', '\\,')
    .replace(/\r\n|[\r\n\u0085\u2028\u2029]/gu, '\\n');

/** Folds a content line at 75 octets without splitting a character (RFC 5545 section 3.1). */
export function foldLine(line: string): string {
  const encoder = new TextEncoder();
  const out: string[] = [];
  let current = '';
  let size = 0;
  for (const character of line) {
    const octets = encoder.encode(character).length;
    if (size + octets > 75) {
      out.push(current);
      current = ' ';
      size = 1;
    }
    current += character;
    size += octets;
  }
  out.push(current);
  return out.join('\r\n');
}

/** Writes an iCalendar file (RFC 5545) with times in UTC. */
export function writeCalendar(name: string, entries: readonly CalendarEntry[], stamp: Instant): string {
  const lines = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Acolyte//Events//EN',
    'CALSCALE:GREGORIAN',
    `NAME:${escapeText(name)}`,
  ];
  for (const e of entries) {
    lines.push(
      'BEGIN:VEVENT',
      `UID:${e.uid}`,
      `DTSTAMP:${utc(stamp)}`,
      `SEQUENCE:${e.sequence}`,
      `DTSTART:${utc(e.startsAt)}`,
      ...(e.endsAt ? [`DTEND:${utc(e.endsAt)}`] : []),
      `SUMMARY:${escapeText(e.summary)}`,
      ...(e.description ? [`DESCRIPTION:${escapeText(e.description)}`] : []),
      ...(e.location ? [`LOCATION:${escapeText(e.location)}`] : []),
      ...(e.url ? [`URL:${e.url}`] : []),
      ...(e.cancelled ? ['STATUS:CANCELLED'] : ['STATUS:CONFIRMED']),
      'END:VEVENT',
    );
  }
  lines.push('END:VCALENDAR');
  return `${lines.map(foldLine).join('\r\n')}\r\n`;
}
