import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { isBalanced, together } from './posting.ts';
import {
  asideOf,
  effectOf,
  entriesOf,
  type Move,
  type MoveKind,
  moveKinds,
  postingOf,
  unexplainedOf,
} from './processor.ts';

const move = (kind: MoveKind, amount: number, fee = 0) => ({ kind, amount, fee });
const said = (entries: readonly { account: string; amount: number }[]) =>
  Object.fromEntries(entries.map((e) => [e.account, e.amount]));

describe('what is posted for what moves at the processor, worked by hand', () => {
  test('a charge of 55.00 costs 1.57; the 55.00 itself is posted with the order', () => {
    expect(said(entriesOf(move('charge', 5500, 157)))).toEqual({ fees: 157, cards: -157 });
    expect(effectOf(move('charge', 5500, 157))).toBe(5343);
    expect(postingOf(move('charge', 1))).toBe('fee');
  });
  test('a fee may eat the payment', () => {
    expect(effectOf(move('charge', 20, 25))).toBe(-5);
    expect(said(entriesOf(move('charge', 20, 25)))).toEqual({ fees: 25, cards: -25 });
  });
  test('a dispute takes the money away with a fee, and brings both back where it is won', () => {
    const opened = entriesOf(move('disputed', 5500, 1500));
    expect(said(opened)).toEqual({ cards: -7000, disputed: 5500, fees: 1500 });
    const won = entriesOf(move('dispute won', 5500, -1500));
    expect(said(won)).toEqual({ cards: 7000, disputed: -5500, fees: -1500 });
    expect(together([...opened, ...won])).toEqual([]);
    expect(postingOf(move('dispute won', 1))).toBe('disputed');
  });
  test('a dispute that is lost after 20.00 had gone back: those are nobody’s any more', () => {
    expect(entriesOf(move('dispute lost', 5500))).toEqual([]);
    expect(said(entriesOf(move('dispute lost', 5500), 2000))).toEqual({
      'written off': 2000,
      disputed: -2000,
    });
  });
  test('a payout goes to the bank, and one that is sent back comes from it', () => {
    expect(said(entriesOf(move('payout', 9000)))).toEqual({ cards: -9000, bank: 9000 });
    expect(said(entriesOf(move('payout failed', 9000)))).toEqual({ cards: 9000, bank: -9000 });
    expect(postingOf(move('payout', 1))).toBe('paid out');
  });
  test('what nothing explains stands by itself', () => {
    expect(said(unexplainedOf(move('charge', 700, 42)))).toEqual({ cards: 658, unexplained: -658 });
    expect(unexplainedOf(move('dispute lost', 700))).toEqual([]);
  });
});

describe('what is put aside', () => {
  const of = (kind: MoveKind, amount: number, currency = 'CAD') => ({ kind, amount, currency });
  const known = { amount: 5500, currency: 'CAD' };
  test.each([
    [of('charge', 5500), known, null],
    [of('charge', 5400), known, 'another amount'],
    [of('charge', 5500, 'USD'), known, 'another currency'],
    [of('charge', 5500), null, 'not ours'],
    [of('refund', 5500), known, null],
    [of('refund failed', 1), known, 'another amount'],
    // A part of a charge may be contested, and never more.
    [of('disputed', 100), known, null],
    [of('disputed', 5501), known, 'another amount'],
    [of('payout', 12), null, null],
    [of('payout failed', 12), null, null],
  ] as const)('%o against %o: %s', (m, k, why) => {
    expect(asideOf(m, k)).toBe(why);
  });
});

test('every posting balances, and the account moves by what the statement says, less what orders post themselves', () => {
  const anyMove = fc.record({
    kind: fc.constantFrom(...(Object.keys(moveKinds) as MoveKind[])),
    amount: fc.integer({ min: 0, max: 10 ** 15 }),
    fee: fc.integer({ min: -2000, max: 2000 }),
  });
  const ofOrders = (m: Pick<Move, 'kind' | 'amount'>) =>
    m.kind === 'charge' || m.kind === 'refund' || m.kind === 'refund failed'
      ? moveKinds[m.kind] * m.amount
      : 0;
  fc.assert(
    fc.property(fc.array(anyMove, { maxLength: 30 }), fc.integer({ min: 0, max: 500 }), (moves, lost) => {
      for (const m of moves) {
        expect(entriesOf(m, lost).length === 0 || isBalanced(entriesOf(m, lost))).toBe(true);
        const cards = entriesOf(m, lost).find((e) => e.account === 'cards')?.amount ?? 0;
        expect(cards + ofOrders(m)).toBe(effectOf(m));
        expect(unexplainedOf(m).reduce((sum, e) => sum + e.amount, 0)).toBe(0);
      }
    }),
  );
});
