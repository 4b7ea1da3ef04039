import { expect, test } from 'vitest';
import { dayNumber, daysAt, runAround } from './dayRuns.ts';

test('days are those of the clock of a zone, and what ends at midnight is not on the day that begins then', () => {
  const days = (from: string, to: string, zone: string) => {
    const { first, last } = daysAt(from, to, zone);
    return [first, last].map((n) => new Date(n * 86_400_000).toISOString().slice(0, 10));
  };
  // In Halifax it is three hours earlier in summer.
  expect(days('2026-08-09T01:00:00Z', '2026-08-09T03:00:00Z', 'America/Halifax')).toEqual([
    '2026-08-08',
    '2026-08-08',
  ]);
  expect(days('2026-08-09T01:00:00Z', '2026-08-09T04:00:00Z', 'America/Halifax')).toEqual([
    '2026-08-08',
    '2026-08-09',
  ]);
  expect(days('2026-08-09T01:00:00Z', '2026-08-09T03:00:00Z', 'UTC')).toEqual(['2026-08-09', '2026-08-09']);
});

test('a run is every taken day in a row around some days, on both sides', () => {
  const taken = new Set(['2026-02-27', '2026-03-02', '2026-03-04'].map(dayNumber));
  const around = (first: string, last = first) =>
    runAround({ first: dayNumber(first), last: dayNumber(last) }, (day) => taken.has(day));
  expect(around('2026-02-28')).toBe(2);
  expect(around('2026-02-28', '2026-03-01')).toBe(4);
  expect(around('2026-03-03')).toBe(3);
  expect(around('2026-03-06')).toBe(1);
});
