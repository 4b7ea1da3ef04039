import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { betaBelow } from '#core/statistics/beta.ts';
import { atLeast, inTenths, oddsOf } from './odds.ts';

/** The same by adding the terms of the binomial distribution up. */
function byHand(needed: number, seats: number, chance: number): number {
  let sum = 0;
  for (let k = needed; k <= seats; k++) {
    let ways = 1;
    for (let i = 0; i < k; i++) ways *= (seats - i) / (i + 1);
    sum += ways * chance ** k * (1 - chance) ** (seats - k);
  }
  return sum;
}

describe('how likely seats come free', () => {
  test('the incomplete beta function at values that are known', () => {
    // I_x(1, 1) = x; I_x(2, 3) = 6x² − 8x³ + 3x⁴; I_½(a, a) = ½.
    expect(betaBelow(0.3, 1, 1)).toBeCloseTo(0.3, 12);
    expect(betaBelow(0.4, 2, 3)).toBeCloseTo(0.5248, 12);
    expect(betaBelow(0.5, 37.5, 37.5)).toBeCloseTo(0.5, 12);
    expect([betaBelow(0, 2, 3), betaBelow(1, 2, 3)]).toEqual([0, 1]);
  });

  test('five heads or more of ten throws: 638 of 1024', () => {
    expect(atLeast(5, 10, 0.5)).toBeCloseTo(638 / 1024, 12);
    expect([atLeast(0, 10, 0.1), atLeast(11, 10, 0.9)]).toEqual([1, 0]);
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 40 }),
        fc.double({ min: 0.01, max: 0.99, noNaN: true }),
        (needed, seats, chance) => {
          expect(atLeast(needed, seats, chance)).toBeCloseTo(
            needed > seats ? 0 : byHand(needed, seats, chance),
            9,
          );
        },
      ),
    );
  });

  test('the more seats have to come free, the less likely; the more is known, the narrower', () => {
    const few = { held: 60, freed: 6 };
    const many = { held: 6000, freed: 600 };
    const one = oddsOf(1, 40, few)!;
    const five = oddsOf(5, 40, few)!;
    expect(one.low).toBeGreaterThan(five.low);
    expect(one.low).toBeLessThan(one.likely);
    expect(one.likely).toBeLessThan(one.high);
    const known = oddsOf(5, 40, many)!;
    expect(known.high - known.low).toBeLessThan(five.high - five.low);
    // One seat in ten comes free: at least one of forty, 1 − 0.9⁴⁰.
    expect(oddsOf(1, 40, many)!.likely).toBeCloseTo(1 - 0.9 ** 40, 2);
  });

  test('too little known says nothing; where nothing has to come free it is sure', () => {
    expect(oddsOf(1, 40, { held: 29, freed: 3 })).toBeNull();
    expect(oddsOf(0, 40, { held: 0, freed: 0 })).toEqual({ low: 1, likely: 1, high: 1 });
    expect(oddsOf(50, 40, { held: 100, freed: 10 })).toEqual({ low: 0, likely: 0, high: 0 });
  });

  test.each([
    [
      { low: 0.21, likely: 0.3, high: 0.44 },
      { from: 2, to: 5 },
    ],
    [
      { low: 0, likely: 0, high: 0.001 },
      { from: 0, to: 1 },
    ],
    [
      { low: 0.9, likely: 0.97, high: 0.999 },
      { from: 9, to: 9 },
    ],
    [
      { low: 0.97, likely: 0.98, high: 0.999 },
      { from: 9, to: 10 },
    ],
    [
      { low: 1, likely: 1, high: 1 },
      { from: 10, to: 10 },
    ],
  ])('in tenths: %j', (odds, said) => {
    expect(inTenths(odds)).toEqual(said);
  });
});
