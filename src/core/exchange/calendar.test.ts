import fc from 'fast-check';
import ICAL from 'ical.js';
import { expect, test } from 'vitest';
import { foldLine, writeCalendar } from './calendar.ts';

test('calendar files fold at 75 octets and escape text', () => {
  const file = writeCalendar(
    'Shifts',
    [
      {
        uid: 'a',
        startsAt: '2026-08-08T12:00:00.000Z',
        endsAt: null,
        summary: 'Paddle; lagoon, shore',
        description: 'é'.repeat(60),
        sequence: 2,
      },
    ],
    '2026-07-09T12:20:00.000Z',
  );
  expect(file).toContain('DTSTART:20260808T120000Z\r\n');
  expect(file).toContain('SUMMARY:Paddle\\; lagoon\\, shore\r\n');
  for (const line of file.split('\r\n'))
    expect(new TextEncoder().encode(line).length).toBeLessThanOrEqual(75);
  fc.assert(
    fc.property(
      fc.string({ unit: 'grapheme' }),
      (text) =>
        foldLine(text.replace(/[\r\n]/gu, '')).replaceAll('\r\n ', '') === text.replace(/[\r\n]/gu, ''),
    ),
  );
});

test('whatever people write is read back as it was, line by line', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme', minLength: 1 }), (text) => {
      const entry = { uid: 'a', startsAt: '2026-08-08T12:00:00.000Z', endsAt: null, sequence: 1 };
      const file = writeCalendar('x', [{ ...entry, summary: 'S', description: text }], entry.startsAt);
      const read = new ICAL.Component(ICAL.parse(file)).getFirstSubcomponent('vevent')!;
      expect(read.getFirstPropertyValue('description')).toBe(
        text.replace(/\r\n|[\r\n\u0085\u2028\u2029]/gu, '\n'),
      );
    }),
  );
});

test('an entry that was called off says so, and a newer one has a higher number', () => {
  const entry = (more: object) => ({
    uid: 'shift-1@trust',
    startsAt: '2026-08-08T12:00:00.000Z',
    endsAt: '2026-08-08T16:00:00.000Z',
    summary: 'Shore guide',
    sequence: 1,
    ...more,
  });
  const file = writeCalendar(
    'Shifts',
    [
      entry({}),
      entry({ uid: 'shift-2@trust', sequence: 3, cancelled: true, location: 'Sluice Landing, east' }),
    ],
    '2026-07-09T12:20:00.000Z',
  );
  expect(file.match(/BEGIN:VEVENT/gu)).toHaveLength(2);
  expect(file).toContain('SEQUENCE:3');
  expect(file.match(/STATUS:CANCELLED/gu)).toHaveLength(1);
  expect(file).toContain('DTEND:20260808T160000Z');
  expect(file).toContain('LOCATION:Sluice Landing\\, east');
  expect(file.endsWith('END:VCALENDAR\r\n')).toBe(true);
});
