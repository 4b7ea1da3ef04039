import { expect, test } from 'vitest';
import { isAway, overlap } from './absence.ts';

test('away from the first day to the last; two absences meet where they have a day in common', () => {
  const week = { from: '2026-07-13', until: '2026-07-17' };
  expect(['2026-07-12', '2026-07-13', '2026-07-17', '2026-07-18'].map((d) => isAway(week, d))).toEqual([
    false,
    true,
    true,
    false,
  ]);
  expect(overlap(week, { from: '2026-07-17', until: '2026-07-20' })).toBe(true);
  expect(overlap(week, { from: '2026-07-18', until: '2026-07-20' })).toBe(false);
});
