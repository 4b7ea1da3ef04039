import fc from 'fast-check';
import { expect, test } from 'vitest';
import { cut, mostParts } from './cutting.ts';
import { importances, weightOf } from './importance.ts';
import { hoursOf, whenOf } from './shift.ts';

const zone = 'America/Halifax';
const codes = (startsLocal: string, endsLocal: string) =>
  whenOf({ startsLocal, endsLocal }, zone).problems.map((p) => `${p.path} ${p.code}`);

test('a shift ends after it starts, within a day, at times there are', () => {
  expect(codes('2026-08-08T09:00', '2026-08-08T12:00')).toEqual([]);
  expect(codes('2026-08-08T22:00', '2026-08-09T02:00')).toEqual([]);
  expect(codes('2026-08-08T09:00', '2026-08-08T09:00')).toEqual(['endsLocal shift-ends-before']);
  expect(codes('2026-08-08T09:00', '2026-08-09T09:00')).toEqual([]);
  expect(codes('2026-08-08T09:00', '2026-08-09T09:01')).toEqual(['endsLocal shift-too-long']);
  // In the night of 8 March 2026 the clock goes from 2:00 to 3:00.
  expect(codes('2026-03-08T02:30', '2026-03-08T06:00')).toEqual(['startsLocal time-skipped']);
  expect(codes('2026-03-07T22:00', '2026-03-08T02:15')).toEqual(['endsLocal time-skipped']);
});

test('a night in which the clock changes has the hours that pass', () => {
  const hours = (startsLocal: string, endsLocal: string) => {
    const { startsAt, endsAt } = whenOf({ startsLocal, endsLocal }, zone);
    return hoursOf(startsAt, endsAt);
  };
  expect(hours('2026-03-07T22:00', '2026-03-08T06:00')).toBe(7);
  expect(hours('2026-10-31T22:00', '2026-11-01T06:00')).toBe(9);
  expect(hours('2026-08-08T22:00', '2026-08-09T06:00')).toBe(8);
});

test('hours are kept to the quarter', () => {
  const at = (minutes: number) => new Date(minutes * 60_000).toISOString();
  expect([50, 52, 53, 90, 0].map((m) => hoursOf(at(0), at(m)))).toEqual([0.75, 0.75, 1, 1.5, 0]);
});

test('what matters more weighs more', () => {
  const weights = importances.map((i) => weightOf[i]);
  expect([...weights].sort((a, b) => a - b)).toEqual(weights);
  expect(new Set(weights).size).toBe(weights.length);
});

const start = '2026-08-08T09:00:00.000Z';
const minutes = (n: number) => new Date(Date.parse(start) + n * 60_000).toISOString();

test('eight hours are cut into three, each a quarter of an hour into the next', () => {
  expect(cut({ startsAt: start, endsAt: minutes(480) }, 3, 15)).toEqual([
    { startsAt: start, endsAt: minutes(175) },
    { startsAt: minutes(160), endsAt: minutes(335) },
    { startsAt: minutes(320), endsAt: minutes(480) },
  ]);
  expect(() => cut({ startsAt: start, endsAt: minutes(29) }, 2, 0)).toThrow(RangeError);
  expect(() => cut({ startsAt: start, endsAt: minutes(60) }, 1, 0)).toThrow(RangeError);
  expect(mostParts(start, minutes(60))).toBe(4);
});

test('parts cover the whole, in order, and go on past it by nothing', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 30, max: 1440 }),
      fc.integer({ min: 2, max: 24 }),
      fc.integer({ min: 0, max: 120 }),
      (length, asked, handover) => {
        const whole = { startsAt: start, endsAt: minutes(length) };
        const parts = Math.min(asked, mostParts(whole.startsAt, whole.endsAt));
        const pieces = cut(whole, parts, handover);
        expect(pieces).toHaveLength(parts);
        expect(pieces[0]!.startsAt).toBe(whole.startsAt);
        expect(pieces.at(-1)!.endsAt).toBe(whole.endsAt);
        for (const [n, piece] of pieces.entries()) {
          expect(piece.endsAt > piece.startsAt).toBe(true);
          expect(piece.endsAt <= whole.endsAt).toBe(true);
          const next = pieces[n + 1];
          if (!next) continue;
          expect(next.startsAt > piece.startsAt).toBe(true);
          const over = (Date.parse(piece.endsAt) - Date.parse(next.startsAt)) / 60_000;
          const left = (Date.parse(whole.endsAt) - Date.parse(next.startsAt)) / 60_000;
          expect(over).toBe(Math.min(handover, left));
        }
      },
    ),
  );
});
