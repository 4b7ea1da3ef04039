import { expect, test } from 'vitest';
import { sayAgainst } from '#core/words/against.ts';
import { beyond, noLimits, runOf } from './limits.ts';

const shift = (from: string, to: string, hours: number) => ({ startsLocal: from, endsLocal: to, hours });
const day = shift('2026-08-08T09:00', '2026-08-08T13:00', 4);
const load = { shifts: 2, hours: 9, days: ['2026-08-06', '2026-08-07', '2026-08-10'] };
const said = (limits: Partial<typeof noLimits>, of = day) =>
  beyond({ ...noLimits, ...limits }, load, of).map((x) => sayAgainst(x));

test('each limit is said with what it would come to, and none where it is just met', () => {
  expect(said({})).toEqual([]);
  expect(said({ shifts: 3, hours: 13, inARow: 3, latest: '13:00' })).toEqual([]);
  expect(said({ shifts: 2, hours: 12, inARow: 2, latest: '12:30' })).toEqual([
    'wants 2 shifts at most, and has 2',
    'wants 12 hours at most; it would be 13',
    'wants 2 days in a row at most; it would be 3',
    'wants to be done by 12:30',
  ]);
});

test('days in a row are those around it, on both sides; a night counts for both its days', () => {
  expect(runOf([], day)).toBe(1);
  expect(runOf(['2026-08-07', '2026-08-09', '2026-08-10', '2026-08-12'], day)).toBe(4);
  expect(runOf(['2026-02-27', '2026-03-02'], shift('2026-02-28T20:00', '2026-03-01T02:00', 6))).toBe(4);
  // What ends at midnight is not on the day that begins then.
  expect(runOf(['2026-03-01'], shift('2026-02-28T20:00', '2026-03-01T00:00', 4))).toBe(2);
  expect(runOf(['2026-03-02'], shift('2026-02-28T20:00', '2026-03-01T00:00', 4))).toBe(1);
  expect(said({ inARow: 4 }, shift('2026-08-08T22:00', '2026-08-09T02:00', 4))).toEqual([
    'wants 4 days in a row at most; it would be 5',
  ]);
});

test('a shift into the night is late for who wants to be done in the evening; who says two at night means the night', () => {
  const night = shift('2026-08-08T20:00', '2026-08-09T02:00', 6);
  expect(said({ latest: '23:00' }, night)).toEqual(['wants to be done by 23:00']);
  expect(said({ latest: '02:00' }, night)).toEqual([]);
  expect(said({ latest: '01:30' }, night)).toEqual(['wants to be done by 01:30']);
  expect(said({ latest: '01:30' }, day)).toEqual([]);
});
