import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type Moved, waysBack } from './waysBack.ts';

const card = (chargeId: string, amount: number): Moved => ({ method: 'card', chargeId, amount });
const hand = (method: 'cash' | 'transfer' | 'cheque', amount: number): Moved => ({
  method,
  chargeId: null,
  amount,
});

describe('the way back, worked by hand', () => {
  test('what came last goes back first, the way it came', () => {
    const moved = [card('a', 4000), hand('cash', 1000), card('b', 500)];
    expect(waysBack(moved, 300)).toEqual([card('b', 300)]);
    expect(waysBack(moved, 2000)).toEqual([card('b', 500), hand('cash', 1000), card('a', 500)]);
  });
  test('what went back before is taken off the way it went', () => {
    expect(waysBack([card('a', 4000), hand('cash', 1000), card('a', -4000)], 800)).toEqual([
      hand('cash', 800),
    ]);
    expect(waysBack([card('a', 4000), card('b', 1000), card('a', -3500)], 1400)).toEqual([
      card('b', 1000),
      card('a', 400),
    ]);
  });
  test('paid back by hand instead, it is taken off what came last', () => {
    expect(waysBack([card('a', 4000), hand('transfer', -1000)], 4000)).toEqual([card('a', 3000)]);
  });
  test('a refund that did not go through is there again', () => {
    expect(waysBack([card('a', 4000), card('a', -4000), card('a', 4000)], 5000)).toEqual([card('a', 4000)]);
  });
  test('refunds of before, of which no charge is known, are taken off some card', () => {
    expect(waysBack([card('a', 4000), { method: 'card', chargeId: null, amount: -1500 }], 4000)).toEqual([
      card('a', 2500),
    ]);
  });
});

test('it goes back by ways it came, never more than came by each, and all of it where there is as much', () => {
  const move = fc.record({
    method: fc.constantFrom('card' as const, 'cash' as const),
    chargeId: fc.constant(null),
    amount: fc.integer({ min: 1, max: 500 }),
  });
  fc.assert(
    fc.property(fc.array(move, { maxLength: 8 }), fc.integer({ min: 1, max: 3000 }), (moved, amount) => {
      const ways = waysBack(moved, amount);
      const all = moved.reduce((sum, m) => sum + m.amount, 0);
      expect(ways.reduce((sum, m) => sum + m.amount, 0)).toBe(Math.min(all, amount));
      for (const way of ways)
        expect(way.amount).toBeLessThanOrEqual(
          moved.filter((m) => m.method === way.method).reduce((sum, m) => sum + m.amount, 0),
        );
      // Once that is gone, the rest goes the ways that are left.
      const gone = ways.map((w) => ({ ...w, amount: -w.amount }));
      expect(waysBack([...moved, ...gone], 10_000).reduce((sum, m) => sum + m.amount, 0)).toBe(
        all - Math.min(all, amount),
      );
    }),
  );
});
