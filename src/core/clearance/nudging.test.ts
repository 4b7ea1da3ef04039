import { expect, test } from 'vitest';
import { escalates, mostNudges, nextNudge } from './nudging.ts';

test('a step is reminded of on the day it is due, then every second working day; coordinators hear of the second', () => {
  // Thursday 16 July, with Monday 20 a holiday.
  const days = Array.from({ length: 8 }, (_, n) => nextNudge('2026-07-16', n, ['2026-07-20']));
  expect(days).toEqual([
    '2026-07-16',
    '2026-07-21',
    '2026-07-23',
    '2026-07-27',
    '2026-07-29',
    '2026-07-31',
    null,
    null,
  ]);
  expect(Array.from({ length: mostNudges }, (_, n) => escalates(n))).toEqual([
    false,
    true,
    false,
    false,
    false,
    false,
  ]);
});
