import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { includedIn, shareOf, spread } from './spread.ts';

describe('an amount spread over parts', () => {
  test.each([
    [100, [1, 1, 1], [34, 33, 33]],
    [10, [3, 3, 3, 1], [3, 3, 3, 1]],
    [2, [1, 1, 1], [1, 1, 0]],
    // Seats of 100 by votes 47, 16, 15.9, 12, 6.1, 3 hundredths of ten: the textbook case of the largest remainder.
    [10, [47000, 16000, 15900, 12000, 6100, 3000], [5, 2, 1, 1, 1, 0]],
    [7, [0, 5, 0], [0, 7, 0]],
    [5, [0, 0], [0, 0]],
  ])('%i by %j is %j', (amount, weights, parts) => {
    expect(spread(amount, weights)).toEqual(parts);
  });

  test('adds up, and no part is a whole unit away from its share, at any size', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 900_000_000_000 }),
        fc.array(fc.integer({ min: 0, max: 10_000_000 }), { minLength: 1, maxLength: 60 }),
        (amount, weights) => {
          const sum = weights.reduce((a, b) => a + b, 0);
          const parts = spread(amount, weights);
          expect(parts.reduce((a, b) => a + b, 0)).toBe(sum > 0 ? amount : 0);
          parts.forEach((part, at) => {
            if (weights[at] === 0) expect(part).toBe(0);
            // part × sum and amount × weight, apart by less than one unit of sum.
            const off = BigInt(part) * BigInt(sum) - BigInt(amount) * BigInt(weights[at]!);
            expect(off > -BigInt(sum || 1) && off < BigInt(sum || 1)).toBe(true);
          });
        },
      ),
    );
  });
});

describe('a rate', () => {
  test.each([
    [10_000, 15_000, 1500],
    [333, 15_000, 50],
    [3, 15_000, 0],
    [1, 50_000, 1],
    [12_345, 9_975, 1231],
    [0, 15_000, 0],
  ])('of %i at %i is %i', (amount, rate, tax) => {
    expect(shareOf(amount, rate)).toBe(tax);
  });

  test.each([
    [11_500, 15_000, 1500],
    [100, 15_000, 13],
    [11_900, 19_000, 1900],
    [1, 15_000, 0],
  ])('included in %i at %i it is %i', (amount, rate, tax) => {
    expect(includedIn(amount, rate)).toBe(tax);
  });
});
