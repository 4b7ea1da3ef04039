import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { keptOf, percentBack, problemsWithRefunds, sayableSteps } from './refundPolicy.ts';

const steps = [
  { days: 7, percent: 50 },
  { days: 14, percent: 100 },
];

describe('what goes back of a seat that is given up', () => {
  test.each([
    ['2026-07-25', 100],
    ['2026-07-26', 50],
    ['2026-08-01', 50],
    ['2026-08-02', 0],
    ['2026-08-08', 0],
  ])('on %s of an event on 8 August: %i per cent', (today, percent) => {
    expect(percentBack(steps, today, '2026-08-08')).toBe(percent);
  });

  test('everything, where nothing is said or there is no date yet', () => {
    expect(percentBack([], '2026-08-08', '2026-08-08')).toBe(100);
    expect(percentBack(steps, '2026-08-08', null)).toBe(100);
  });

  test('the days are said from the earliest on', () => {
    expect(sayableSteps(steps, '2026-08-08').map((s) => [s.until, s.percent])).toEqual([
      ['2026-07-25', 100],
      ['2026-08-01', 50],
    ]);
  });

  test('half of 25.01, twice 12.50 and one cent more kept or paid: it adds up, and nobody gets a cent too much', () => {
    expect(keptOf([2501], 50)).toEqual([1250]);
    expect(keptOf([1000, 1000, 1000], 33)).toEqual([670, 670, 670]);
    expect(keptOf([0, 2500], 0)).toEqual([0, 2500]);
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 100_000_00 }), { maxLength: 12 }),
        fc.integer({ min: 0, max: 100 }),
        (received, percent) => {
          const kept = keptOf(received, percent);
          const all = received.reduce((a, b) => a + b, 0);
          const sum = kept.reduce((a, b) => a + b, 0);
          expect(Math.abs(sum - (all * (100 - percent)) / 100)).toBeLessThanOrEqual(0.5);
          for (const [at, k] of kept.entries()) {
            expect(k).toBeGreaterThanOrEqual(0);
            expect(k).toBeLessThanOrEqual(received[at]!);
          }
        },
      ),
    );
  });

  test('the same day twice, and more for giving up later, are refused', () => {
    expect(problemsWithRefunds(steps)).toEqual([]);
    expect(problemsWithRefunds([...steps, { days: 7, percent: 10 }]).map((p) => p.code)).toEqual([
      'refund-day-twice',
    ]);
    expect(
      problemsWithRefunds([
        { days: 14, percent: 20 },
        { days: 7, percent: 50 },
      ]).map((p) => [p.path, p.code]),
    ).toEqual([['refunds.1.percent', 'refund-more-later']]);
  });
});
