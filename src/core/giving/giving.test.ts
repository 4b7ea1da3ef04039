import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { isBalanced } from '#core/money/posting.ts';
import { booksOfGift, type GiftMoney, progressOf, shownAs, standsAt } from './gift.ts';
import { dayOf, expiresBefore, nextInstalment, readExpiry, retryDays, tryAgainOn } from './pledge.ts';

const moved = (amount: number, method: GiftMoney['method'] = 'card', undoes = false): GiftMoney => ({
  amount,
  method,
  undoes,
});

describe('what a gift stands at, worked by hand', () => {
  test.each([
    [[], { received: 0, state: 'open' }],
    [[moved(5000)], { received: 5000, state: 'given' }],
    [[moved(5000), moved(-2000)], { received: 3000, state: 'part returned' }],
    [[moved(5000), moved(-5000)], { received: 0, state: 'returned' }],
    // A refund that did not go through: it was never returned.
    [[moved(5000), moved(-5000), moved(5000, 'card', true)], { received: 5000, state: 'given' }],
    [[moved(5000), moved(-5000, 'contested')], { received: 0, state: 'returned' }],
    [[moved(80_000, 'in kind')], { received: 80_000, state: 'given' }],
  ] as const)('%o: %o', (all, stands) => {
    expect(standsAt(all)).toEqual(stands);
  });
  test('it is posted to its fund, on the account it came into', () => {
    expect(booksOfGift([moved(5000), moved(-2000, 'transfer')], 'fund')).toEqual([
      { account: 'cards', fundId: null, amount: 5000 },
      { account: 'gifts', fundId: 'fund', amount: -3000 },
      { account: 'bank', fundId: null, amount: -2000 },
    ]);
    expect(booksOfGift([moved(900, 'in kind')], 'fund')).toEqual([
      { account: 'in kind', fundId: null, amount: 900 },
      { account: 'gifts', fundId: 'fund', amount: -900 },
    ]);
  });
  test('it always balances, and what is given is what came and stayed', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            amount: fc.integer({ min: -999, max: 999 }).filter((n) => n !== 0),
            method: fc.constantFrom('card' as const, 'cash' as const, 'in kind' as const),
            undoes: fc.constant(false),
          }),
          { maxLength: 12 },
        ),
        (all) => {
          const entries = booksOfGift(all, 'f');
          expect(entries.length === 0 || isBalanced(entries)).toBe(true);
          expect(0 - (entries.find((e) => e.account === 'gifts')?.amount ?? 0)).toBe(standsAt(all).received);
        },
      ),
    );
  });
  test('who wishes so is not named; a goal may be passed', () => {
    expect(shownAs({ given: 'Ada', family: 'Reed', anonymous: false })).toBe('Ada Reed');
    expect(shownAs({ given: 'Ada', family: 'Reed', anonymous: true })).toBeNull();
    expect([progressOf(null, 5), progressOf(1000, 999), progressOf(1000, 2500)]).toEqual([null, 99, 250]);
  });
});

describe('a gift every month', () => {
  test.each([
    [31, '2026-01-31', '2026-02-28'],
    [5, '2026-07-05', '2026-08-05'],
    [5, '2026-07-04', '2026-07-05'],
    [28, '2026-12-28', '2027-01-28'],
    [1, '2028-02-29', '2028-03-01'],
  ] as const)('on the %i. after %s: %s', (day, after, next) => {
    expect(nextInstalment(Math.min(28, day), after)).toBe(next);
  });
  test('begun on the 29th, 30th or 31st it falls on the 28th', () => {
    expect(['2026-07-09', '2026-07-29', '2026-07-31'].map(dayOf)).toEqual([9, 28, 28]);
  });
  test('declined, it is tried after three days, then after seven, then missed', () => {
    expect(tryAgainOn('2026-07-09', 1, '2026-07-09')).toBe('2026-07-12');
    expect(tryAgainOn('2026-07-09', 2, '2026-07-12')).toBe('2026-07-19');
    expect(tryAgainOn('2026-07-09', 3, '2026-07-19')).toBeNull();
    // Never on the day of the next one, or later.
    expect(tryAgainOn('2026-07-09', 2, '2026-08-02')).toBeNull();
    expect(tryAgainOn('2026-07-09', 2, '2026-08-01')).toBe('2026-08-08');
  });
  test('a card is good to the end of its month', () => {
    expect(expiresBefore('2026-08', '2026-08-31')).toBe(false);
    expect(expiresBefore('2026-08', '2026-09-01')).toBe(true);
    expect(expiresBefore(null, '2026-09-01')).toBe(false);
    expect([readExpiry(' 08 / 29 '), readExpiry('13/29'), readExpiry('8/29')]).toEqual([
      '2029-08',
      null,
      null,
    ]);
  });
  test('every month has exactly one instalment, for twenty years', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 28 }), fc.integer({ min: 0, max: 5000 }), (day, from) => {
        let on = new Date(Date.UTC(2020, 0, 1 + from)).toISOString().slice(0, 10);
        const months = new Set<string>();
        for (let n = 0; n < 240; n += 1) {
          const next = nextInstalment(day, on);
          expect(next > on).toBe(true);
          expect(Number(next.slice(8))).toBe(day);
          expect(months.has(next.slice(0, 7))).toBe(false);
          months.add(next.slice(0, 7));
          on = next;
        }
        expect(retryDays).toHaveLength(2);
      }),
      { numRuns: 20 },
    );
  });
});
