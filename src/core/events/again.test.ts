import fc from 'fast-check';
import { expect, test } from 'vitest';
import { daysBetween, shiftDate } from '#core/time/dates.ts';
import { datesAgain, inMonth, ordinalOf, sameTimeOfYear } from './again.ts';
import { recurring } from './recurring.ts';

const dates = fc.integer({ min: 0, max: 365 * 60 }).map((days) => shiftDate('2000-01-01', days));
const weekday = (date: string) => new Date(`${date}T00:00Z`).getUTCDay();

test('the same Saturday of the next year, from a calendar', () => {
  expect(sameTimeOfYear('2026-08-08', '2026-08-09')).toBe('2027-08-07');
  expect(sameTimeOfYear('2023-08-12', '2026-07-09')).toBe('2026-08-15');
  // A leap day comes again around the end of February.
  expect(sameTimeOfYear('2028-02-29', '2028-03-01')).toBe('2029-02-27');
  // Around the turn of the year the nearest may lie in the year before.
  expect(sameTimeOfYear('2026-01-01', '2026-12-30')).toBe('2026-12-31');
});

test('the same time of the year has the weekday, lies ahead, and within three days of the anniversary', () => {
  fc.assert(
    fc.property(dates, dates, (date, after) => {
      const again = sameTimeOfYear(date, after);
      expect(weekday(again)).toBe(weekday(date));
      expect(again > after && again > date).toBe(true);
      const near = [-1, 0, 1].map((y) => {
        const year = Number(again.slice(0, 4)) + y;
        return Math.abs(daysBetween(`${year}-${date.slice(5) === '02-29' ? '02-28' : date.slice(5)}`, again));
      });
      expect(Math.min(...near)).toBeLessThanOrEqual(4);
    }),
  );
});

test('the weekdays of a month, from a calendar', () => {
  expect(inMonth(2026, 7, 3, 1)).toBe('2026-07-01');
  expect(inMonth(2026, 9, 3, 1)).toBe('2026-09-02');
  expect(inMonth(2026, 7, 5, 'last')).toBe('2026-07-31');
  expect(inMonth(2027, 2, 0, 'last')).toBe('2027-02-28');
  expect([1, 8, 15, 22, 29].map((d) => ordinalOf(`2026-07-${String(d).padStart(2, '0')}`))).toEqual([
    1,
    2,
    3,
    4,
    'last',
  ]);
});

test('a date is the one of its month with its weekday and its ordinal', () => {
  fc.assert(
    fc.property(dates, (date) => {
      expect(
        inMonth(Number(date.slice(0, 4)), Number(date.slice(5, 7)), weekday(date), ordinalOf(date)),
      ).toBe(date);
    }),
  );
});

test('a first Wednesday is proposed where its place is free, and the same time of the next year', () => {
  expect(datesAgain('2026-06-03', '2026-07-09', new Set())).toEqual([
    { date: '2026-08-05', kind: 'month', ordinal: 1, free: true },
    { date: '2027-06-02', kind: 'year', ordinal: 1, free: true },
  ]);
  expect(datesAgain('2026-06-03', '2026-07-09', new Set(['2026-08-05', '2027-06-02']))).toEqual([
    { date: '2026-09-02', kind: 'month', ordinal: 1, free: true },
    { date: '2027-06-02', kind: 'year', ordinal: 1, free: false },
  ]);
});

test('nothing in the past and nothing twice is proposed, and no month where its place is taken', () => {
  fc.assert(
    fc.property(dates, dates, fc.array(dates, { maxLength: 40 }), (date, today, busy) => {
      const taken = new Set(busy);
      const proposals = datesAgain(date, today, taken);
      expect(new Set(proposals.map((p) => p.date)).size).toBe(proposals.length);
      for (const p of proposals) {
        expect(p.date > today && p.date > date).toBe(true);
        expect(weekday(p.date)).toBe(weekday(date));
        expect(p.free).toBe(!taken.has(p.date));
        const [year, month] = [Number(p.date.slice(0, 4)), Number(p.date.slice(5, 7))];
        if (p.kind === 'month') expect(inMonth(year, month, weekday(date), ordinalOf(date))).toBe(p.date);
      }
      expect(proposals.filter((p) => p.kind === 'year')).toHaveLength(1);
    }),
  );
});

test('events are grouped by what recurs, newest first; those without a date come last', () => {
  const of = (firstOf: string, startsLocal: string | null) => ({ firstOf, startsLocal });
  expect(
    recurring([
      of('a', '2024-08-10T09:00'),
      of('c', null),
      of('b', '2026-07-01T18:00'),
      of('a', '2026-08-08T09:00'),
      of('a', null),
    ]).map((group) => group.map((e) => `${e.firstOf} ${e.startsLocal?.slice(0, 4) ?? '-'}`)),
  ).toEqual([['a 2026', 'a 2024', 'a -'], ['b 2026'], ['c -']]);
});
