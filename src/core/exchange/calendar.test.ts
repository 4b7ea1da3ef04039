import fc from 'fast-check';
import ICAL from 'ical.js';
import { describe, expect, test } from 'vitest';
import { foldLine, writeCalendar } from './calendar.ts';

test('calendar files fold at 75 octets and escape text', () => {
  const file = writeCalendar(
    'Shifts',
    [
      {
        uid: 'a',
        startsAt: '2026-08-08T12:00:00.000Z',
        endsAt: null,
        zone: 'UTC',
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
      const entry = {
        uid: 'a',
        startsAt: '2026-08-08T12:00:00.000Z',
        endsAt: null,
        zone: 'UTC',
        sequence: 1,
      };
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
    zone: 'UTC',
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

describe('times in the zone of their place', () => {
  const entry = (startsAt: string, zone: string, endsAt: string | null = null) => ({
    uid: startsAt,
    startsAt,
    endsAt,
    zone,
    summary: 'x',
    sequence: 1,
  });
  /** What a calendar makes of a file: the wall time it shows, and the instant it means by the zone that comes with it. */
  const read = (file: string) => {
    const calendar = new ICAL.Component(ICAL.parse(file));
    const zones = new Map(
      calendar
        .getAllSubcomponents('vtimezone')
        .map((component) => [String(component.getFirstPropertyValue('tzid')), new ICAL.Timezone(component)]),
    );
    return calendar.getAllSubcomponents('vevent').map((event) => {
      const property = event.getFirstProperty('dtstart')!;
      const time = (property.getFirstValue() as ICAL.Time).clone();
      const zone = zones.get(String(property.getFirstParameter('tzid') ?? ''));
      if (zone) time.zone = zone;
      return [`${property.getFirstValue()}`, new Date(time.toUnixTime() * 1000).toISOString()];
    });
  };

  test('a series keeps its wall time across a clock change', () => {
    const file = writeCalendar(
      'Reed cut',
      // Halifax: 09:30 before and after 1 November 2026.
      [
        entry('2026-10-07T12:30:00.000Z', 'America/Halifax'),
        entry('2026-11-04T13:30:00.000Z', 'America/Halifax'),
      ],
      '2026-07-09T12:20:00.000Z',
      6,
    );
    expect(file).toContain('DTSTART;TZID=America/Halifax:20261007T093000');
    expect(file).toContain('DTSTART;TZID=America/Halifax:20261104T093000');
    expect(file.match(/BEGIN:VTIMEZONE/gu)).toHaveLength(1);
    // The changes on both sides of it, each at the wall time of the offset before.
    expect(file).toContain(
      'BEGIN:DAYLIGHT\r\nDTSTART:20260308T020000\r\nTZOFFSETFROM:-0400\r\nTZOFFSETTO:-0300',
    );
    expect(file).toContain(
      'BEGIN:STANDARD\r\nDTSTART:20261101T020000\r\nTZOFFSETFROM:-0300\r\nTZOFFSETTO:-0400',
    );
    expect(file).toContain('REFRESH-INTERVAL;VALUE=DURATION:PT6H');
    expect(read(file)).toEqual([
      ['2026-10-07T09:30:00', '2026-10-07T12:30:00.000Z'],
      ['2026-11-04T09:30:00', '2026-11-04T13:30:00.000Z'],
    ]);
  });

  test('a time that a clock change repeats is told in UTC, both times', () => {
    // Halifax, 1 November 2026: 01:30 comes at 04:30 and at 05:30 UTC.
    const file = writeCalendar(
      'Night',
      [
        entry('2026-11-01T04:30:00.000Z', 'America/Halifax'),
        entry('2026-11-01T05:30:00.000Z', 'America/Halifax'),
      ],
      '2026-07-09T12:20:00.000Z',
    );
    expect(file).toContain('DTSTART:20261101T043000Z');
    expect(file).toContain('DTSTART:20261101T053000Z');
  });

  test('a calendar library reads every instant as it was, in whatever zone', () => {
    const zones = [
      'America/Halifax',
      'Europe/Dublin',
      'Asia/Kolkata',
      'America/Santiago',
      'Australia/Lord_Howe',
      'UTC',
    ];
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            zone: fc.constantFrom(...zones),
            minutes: fc.integer({ min: 0, max: 3 * 366 * 1440 }),
          }),
          { minLength: 1, maxLength: 6 },
        ),
        (times) => {
          const at = times.map((t) => new Date(Date.UTC(2025, 0, 1) + t.minutes * 60_000).toISOString());
          const file = writeCalendar(
            'x',
            times.map((t, n) => entry(at[n]!, t.zone)),
            at[0]!,
          );
          expect(read(file).map(([, instant]) => instant)).toEqual(at);
        },
      ),
      { numRuns: 150 },
    );
    // The first of the two hours that the end of summer repeats.
    const first = '2026-10-25T00:00:00.000Z';
    const file = writeCalendar('x', [entry(first, 'Europe/Dublin')], first);
    expect(read(file).map(([, instant]) => instant)).toEqual([first]);
  });
});
