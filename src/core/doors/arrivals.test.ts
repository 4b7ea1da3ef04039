import { expect, test } from 'vitest';
import { arrivalCurve, expectedBy, stepOf } from './arrivals.ts';
import { handoverCode, isHandoverCode } from './handover.ts';
import { isLocked, locksAt } from './lock.ts';

const at = (minute: number) => new Date(Date.UTC(2026, 6, 10, 12, minute)).toISOString();
/** Of 50 who had a seat, 40 came: one a minute from twenty before the start. */
const before = { offsets: Array.from({ length: 40 }, (_, n) => n - 20), seats: 50 };

test('how many are expected by when: the share that came by then before', () => {
  expect(expectedBy(before, 100, -21)).toBe(0);
  expect(expectedBy(before, 100, -1)).toBe(40);
  expect(expectedBy(before, 100, 60)).toBe(80);
  expect(expectedBy({ offsets: before.offsets.slice(0, 29), seats: 50 }, 100, 0)).toBeNull();
});

test('the curve says who came as far as it lies behind, and ends where the day ends', () => {
  const curve = arrivalCurve({
    arrivals: [at(-5), at(-4), at(3)],
    startsAt: at(0),
    from: at(-10),
    until: at(22),
    now: at(4),
    seats: 10,
    before,
  });
  expect(curve.map((p) => [p.at, p.came, p.forecast])).toEqual([
    [at(-10), 0, 2],
    [at(-5), 1, 3],
    [at(0), 2, 4],
    [at(5), 3, 5],
    [at(10), null, 6],
    [at(15), null, 7],
    [at(20), null, 8],
    [at(22), null, 8],
  ]);
  expect(stepOf(120)).toBe(5);
  expect(stepOf(600)).toBe(30);
});

test('a code to hand children over says nothing else, and is read as people say it', () => {
  const code = handoverCode('0123456789abcdef');
  expect(code).toMatch(/^[2-9B-DF-HJ-NP-TV-XZ]{5}$/u);
  expect(handoverCode('0123456789abcdf0')).not.toBe(code);
  expect(isHandoverCode(` ${code.toLowerCase().slice(0, 2)}-${code.slice(2)}`, code)).toBe(true);
  expect(isHandoverCode(`${code}2`, code)).toBe(false);
  expect(isHandoverCode('', code)).toBe(false);
});

test('what is kept of who came stands after its days, and can be opened for a while', () => {
  const locks = locksAt('2026-07-10T20:00:00.000Z', 30);
  expect(locks).toBe('2026-08-09T20:00:00.000Z');
  expect(isLocked(locks, null, '2026-08-09T19:59:59.000Z')).toBe(false);
  expect(isLocked(locks, null, locks!)).toBe(true);
  expect(isLocked(locks, '2026-09-01T00:00:00.000Z', '2026-08-31T00:00:00.000Z')).toBe(false);
  expect(isLocked(locks, '2026-09-01T00:00:00.000Z', '2026-09-01T00:00:00.000Z')).toBe(true);
  expect(locksAt(null, 30)).toBeNull();
});
