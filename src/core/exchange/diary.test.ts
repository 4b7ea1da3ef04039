import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { DiaryProblem, readDiary } from './diary.ts';

const zone = 'America/Halifax';
const year = { from: '2026-01-01T00:00:00.000Z', to: '2027-01-01T00:00:00.000Z' };
const hall = readFileSync(join(import.meta.dirname, '../../../tests/data/outside-calendar.ics'), 'utf8');
const calendar = (...lines: string[]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//x//EN', ...lines, 'END:VCALENDAR', ''].join('\r\n');
const event = (...lines: string[]) => [
  'BEGIN:VEVENT',
  'UID:a@x.example',
  'DTSTAMP:20260101T000000Z',
  ...lines,
  'END:VEVENT',
];
const read = (...lines: string[]) => readDiary(calendar(...event(...lines)), year, zone);

describe('the diary of a hall', () => {
  const { entries, unread, unknownZones } = readDiary(hall, year, zone);
  const choir = entries.filter((e) => e.summary.startsWith('Town choir'));
  test('the first Wednesday of every month, one skipped and one moved, in a zone under a name of its own', () => {
    // By hand: 12 first Wednesdays of 2026 less 1 July; 1 April is on the 8th, half an hour later.
    expect(choir.map((e) => e.from)).toEqual([
      '2026-01-07T23:00:00.000Z',
      '2026-02-04T23:00:00.000Z',
      '2026-03-04T23:00:00.000Z',
      '2026-04-08T22:30:00.000Z',
      '2026-05-06T22:00:00.000Z',
      '2026-06-03T22:00:00.000Z',
      '2026-08-05T22:00:00.000Z',
      '2026-09-02T22:00:00.000Z',
      '2026-10-07T22:00:00.000Z',
      '2026-11-04T23:00:00.000Z',
      '2026-12-02T23:00:00.000Z',
    ]);
    expect(choir.every((e) => Date.parse(e.to) - Date.parse(e.from) === 2 * 3_600_000)).toBe(true);
  });
  test('whole days are those of the place; a duration stands for an end; what is cancelled takes nothing', () => {
    expect(entries.find((e) => e.summary.startsWith('Hall closed'))).toMatchObject({
      from: '2026-06-20T03:00:00.000Z',
      to: '2026-06-22T03:00:00.000Z',
    });
    expect(entries.find((e) => e.tentative)).toMatchObject({
      from: '2026-11-01T04:30:00.000Z',
      to: '2026-11-01T07:00:00.000Z',
    });
    expect(entries.some((e) => e.summary.includes('quiz'))).toBe(false);
    expect([unread, unknownZones]).toEqual([0, []]);
  });
});

describe('awkward diaries', () => {
  test('a zone nobody knows is that of the place, and is named', () => {
    const { entries, unknownZones } = read(
      'DTSTART;TZID=Middle Earth:20260601T100000',
      'DTEND;TZID=Middle Earth:20260601T110000',
    );
    expect(entries).toMatchObject([{ from: '2026-06-01T13:00:00.000Z', to: '2026-06-01T14:00:00.000Z' }]);
    expect(unknownZones).toEqual(['Middle Earth']);
  });
  test('an entry without an end lasts an hour; one that ends before it begins too', () => {
    expect(read('DTSTART:20260601T100000Z').entries).toMatchObject([{ to: '2026-06-01T11:00:00.000Z' }]);
    expect(read('DTSTART:20260601T100000Z', 'DTEND:20260601T090000Z').entries).toMatchObject([
      { to: '2026-06-01T11:00:00.000Z' },
    ]);
  });
  test('a rule that never ends is laid out within the window only; time that is free takes nothing', () => {
    const daily = read('DTSTART:20200101T100000Z', 'DTEND:20200101T110000Z', 'RRULE:FREQ=DAILY');
    expect(daily.entries).toHaveLength(365);
    expect(read('DTSTART:20260601T100000Z', 'TRANSP:TRANSPARENT').entries).toEqual([]);
  });
  test('a rule by the second is given up, not waited for', () => {
    const { entries } = read('DTSTART:20100101T000000Z', 'DTEND:20100101T000001Z', 'RRULE:FREQ=SECONDLY');
    expect(entries).toEqual([]);
  });
  test('one entry that makes no sense does not take the others along', () => {
    const two = readDiary(
      calendar(...event('SUMMARY:No start'), ...event('DTSTART:20260601T100000Z', 'SUMMARY:Fine')),
      year,
      zone,
    );
    expect(two.entries.map((e) => e.summary)).toEqual(['Fine']);
    expect(two.unread).toBe(1);
  });
  test('50,000 entries are read, and cut at what is kept', () => {
    const many = Array.from({ length: 50_000 }, (_, n) =>
      [
        'BEGIN:VEVENT',
        `UID:${n}@x.example`,
        'DTSTAMP:20260101T000000Z',
        'DTSTART:20260601T100000Z',
        'SUMMARY:x',
        'END:VEVENT',
      ].join('\r\n'),
    );
    const { entries, cut } = readDiary(calendar(...many), year, zone);
    expect(entries).toHaveLength(20_000);
    expect(cut).toBe(true);
  });
  test('what is no calendar is refused', () => {
    for (const text of ['', 'hello', '<html></html>', 'BEGIN:VCARD\r\nVERSION:3.0\r\nFN:x\r\nEND:VCARD'])
      expect(() => readDiary(text, year, zone)).toThrow(DiaryProblem);
  });
});
