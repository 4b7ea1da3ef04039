import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  type Allocation,
  accountOf,
  allocate,
  allocateRefund,
  layOver,
  lineAccount,
  lineAmount,
  type OrderLine,
  stillNow,
} from './lines.ts';

const unit = (id: string, unitPrice: number, live = true): OrderLine => ({
  id,
  kind: 'seats',
  unitPrice,
  discount: 0,
  tax: 0,
  live,
});
const gift = (amount: number, live = true): OrderLine => ({ ...unit('gift', amount, live), kind: 'gift' });
const laid = (parts: { lineId: string | null; amount: number }[], waived = false): Allocation[] =>
  parts.map((p) => ({ ...p, waived }));

/** What goes over from one line to another: what came in, and what was let off, each as it came. */
const over = (from: OrderLine, to: OrderLine, all: readonly Allocation[]): Allocation[] => {
  const stands = (waived: boolean) =>
    all.reduce((sum, a) => sum + (a.lineId === from.id && a.waived === waived ? a.amount : 0), 0);
  return layOver(from.id, { id: to.id, asked: lineAmount(to) }, [
    { paymentId: 'received', amount: stands(false) },
    { paymentId: 'waived', amount: stands(true) },
  ]).map(({ paymentId, ...part }) => ({ ...part, waived: paymentId === 'waived', moved: true }));
};

describe('a unit that gives way to one at another price', () => {
  const [walk, canoe] = [unit('walk', 2000, false), unit('canoe', 3500)];
  test('is paid by what was paid for it: the rest is asked, and no money went back', () => {
    const paid = laid([{ lineId: 'walk', amount: 2000 }]);
    const after = [...paid, ...over(walk, canoe, paid)];
    expect(accountOf([walk, canoe], after, true)).toMatchObject({
      due: 3500,
      received: 2000,
      refunded: 0,
      balance: 1500,
      state: 'part paid',
    });
    expect(lineAccount(canoe, after)).toMatchObject({ received: 2000, returned: 0, balance: 1500 });
    expect(lineAccount(walk, after).balance).toBe(0);
  });
  test('what is more than it costs stays on the one that is gone, and is owed back', () => {
    const cheap = unit('cheap', 500);
    const paid = laid([{ lineId: 'walk', amount: 2000 }]);
    const after = [...paid, ...over(walk, cheap, paid)];
    expect(accountOf([walk, cheap], after, true)).toMatchObject({ due: 500, balance: -1500, refunded: 0 });
    expect(lineAccount(walk, after).balance).toBe(-1500);
    // It goes back from there first.
    expect(allocateRefund([walk, cheap], after, 1500)).toEqual([{ lineId: 'walk', amount: -1500 }]);
  });
  test('what was let off goes along, and is nobody’s to have back', () => {
    const letOff = laid([{ lineId: 'walk', amount: 2000 }], true);
    const after = [...letOff, ...over(walk, canoe, letOff)];
    expect(accountOf([walk, canoe], after, true)).toMatchObject({ waived: 2000, received: 0, balance: 1500 });
    expect(layOver('a', { id: 'b', asked: 0 }, [{ paymentId: 'p', amount: 5 }])).toEqual([]);
  });
});

describe('what an order stands at', () => {
  test('two seats at 25 are paid; one given up: 25 are owed back, whatever the price is by now', () => {
    const paid = laid(allocate([unit('a', 2500), unit('b', 2500)], [], 5000));
    expect(accountOf([unit('a', 2500), unit('b', 2500)], paid, true)).toMatchObject({
      balance: 0,
      state: 'paid',
    });
    const after = accountOf([unit('a', 2500), unit('b', 2500, false)], paid, true);
    expect(after).toMatchObject({ due: 2500, received: 5000, balance: -2500 });
    const back = laid(allocateRefund([unit('a', 2500), unit('b', 2500, false)], paid, 2500));
    expect(accountOf([unit('a', 2500), unit('b', 2500, false)], [...paid, ...back], true)).toMatchObject({
      received: 2500,
      refunded: 2500,
      balance: 0,
      state: 'part refunded',
    });
  });

  test('a unit that was given up asks for nothing, and what was kept of it is owed back', () => {
    const line = unit('a', 2500, false);
    const paid = laid(allocate([unit('a', 2500)], [], 2500));
    expect(lineAccount(line, paid)).toMatchObject({ charged: 0, received: 2500, balance: -2500 });
    // Nothing more is laid on it: what comes in then stands on no line.
    expect(allocate([line], paid, 700)).toEqual([{ lineId: null, amount: 700 }]);
    expect(lineAccount(gift(1000, false), [])).toMatchObject({ charged: 0, balance: 0 });
  });

  test('a part payment is no gift; a gift comes last, and goes back only when that is said', () => {
    const lines = [unit('a', 2000), gift(1000)];
    const part = laid(allocate(lines, [], 1500));
    expect(part).toEqual([{ lineId: 'a', amount: 1500, waived: false }]);
    expect(accountOf(lines, part, false)).toMatchObject({ balance: 1500, given: 0, state: 'part paid' });
    const rest = laid(allocate(lines, part, 1500));
    expect(rest.map((r) => [r.lineId, r.amount])).toEqual([
      ['a', 500],
      ['gift', 1000],
    ]);
    const all = [...part, ...rest];
    expect(accountOf(lines, all, true)).toMatchObject({ balance: 0, given: 1000 });
    // The seat is given up: the gift stays made.
    const gone = [unit('a', 2000, false), gift(1000, false)];
    expect(accountOf(gone, all, false)).toMatchObject({ due: 1000, balance: -2000, given: 1000 });
    expect(allocateRefund(gone, all, 2000)).toEqual([{ lineId: 'a', amount: -2000 }]);
    expect(allocateRefund(gone, all, 1000, true)).toEqual([{ lineId: 'gift', amount: -1000 }]);
    const returned = [...all, ...laid(allocateRefund(gone, all, 1000, true))];
    expect(accountOf(gone, returned, false)).toMatchObject({ given: 0, balance: -2000, refunded: 1000 });
  });

  test('what is let off is not received, never beyond what is asked, and nobody’s to have back', () => {
    const lines = [unit('a', 2000), unit('b', 2000)];
    const paid = laid(allocate(lines, [], 1500));
    const off = laid(allocate(lines, paid, 9999, true), true);
    expect(off.reduce((n, p) => n + p.amount, 0)).toBe(2500);
    expect(accountOf(lines, [...paid, ...off], true)).toMatchObject({
      received: 1500,
      waived: 2500,
      balance: 0,
      state: 'paid',
    });
    const gone = [unit('a', 2000, false), unit('b', 2000, false)];
    expect(accountOf(gone, [...paid, ...off], false)).toMatchObject({ balance: -1500, waived: 0 });
  });

  test('money returned for a seat that is kept is a favour, not a debt', () => {
    const lines = [unit('a', 2000)];
    const paid = laid(allocate(lines, [], 2000));
    const back = laid(allocateRefund(lines, paid, 500));
    expect(accountOf(lines, [...paid, ...back], true)).toMatchObject({
      due: 1500,
      received: 1500,
      balance: 0,
    });
    expect(accountOf([unit('a', 2000, false)], [...paid, ...back], false).balance).toBe(-1500);
  });

  test('too much stands on no line and is owed back; discount and tax are in the line', () => {
    const line = { ...unit('a', 2000), discount: 500, tax: 195 };
    expect(lineAmount(line)).toBe(1695);
    const paid = laid(allocate([line], [], 2000));
    expect(paid.at(-1)).toEqual({ lineId: null, amount: 305, waived: false });
    expect(accountOf([line], paid, true)).toMatchObject({ due: 1695, balance: -305 });
    expect(allocateRefund([line], paid, 305)).toEqual([{ lineId: null, amount: -305 }]);
  });

  test('an order goes through its states', () => {
    const a = [unit('a', 2500)];
    const gone = [unit('a', 2500, false)];
    const of = (amount: number): Allocation[] => [{ lineId: 'a', amount, waived: false }];
    expect(accountOf(a, [], false).state).toBe('open');
    expect(accountOf(a, [], true).state).toBe('owed');
    expect(accountOf(a, of(1000), true).state).toBe('part paid');
    expect(accountOf(a, of(2500), true).state).toBe('paid');
    expect(accountOf(gone, [], false).state).toBe('void');
    expect(accountOf(gone, [...of(2500), ...of(-2500)], false)).toMatchObject({
      state: 'refunded',
      balance: 0,
    });
    expect(accountOf([unit('a', 0)], [], false).state).toBe('open');
    expect(accountOf([unit('a', 0)], [], true).state).toBe('paid');
  });
});

test('random sequences of payment, waiver, refund and giving up keep the sums', () => {
  const step = fc.oneof(
    fc.record({ do: fc.constant('pay' as const), n: fc.integer({ min: 1, max: 9000 }) }),
    fc.record({ do: fc.constant('waive' as const), n: fc.integer({ min: 1, max: 9000 }) }),
    fc.record({ do: fc.constant('refund' as const), n: fc.integer({ min: 1, max: 9000 }) }),
    fc.record({ do: fc.constant('refund gift' as const), n: fc.integer({ min: 1, max: 9000 }) }),
    fc.record({ do: fc.constant('give up' as const), n: fc.nat(5) }),
    fc.record({ do: fc.constant('change' as const), n: fc.integer({ min: 0, max: 4000 }) }),
  );
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 0, max: 4000 }), { minLength: 1, maxLength: 5 }),
      fc.integer({ min: 0, max: 3000 }),
      fc.array(step, { maxLength: 25 }),
      (prices, donation, steps) => {
        const lines = [...prices.map((p, at) => unit(`u${at}`, p)), ...(donation ? [gift(donation)] : [])];
        const all: Allocation[] = [];
        let [came, went] = [0, 0];
        for (const s of steps) {
          if (s.do === 'give up') {
            const line = lines[s.n % prices.length]!;
            line.live = false;
            if (lines.filter((l) => l.kind === 'seats').every((l) => !l.live))
              for (const l of lines) l.live = false;
            continue;
          }
          if (s.do === 'change') {
            // The first unit that stands gives way to another one at another price.
            const old = lines.find((l) => l.kind === 'seats' && l.live);
            if (!old) continue;
            const fresh = unit(`u${lines.length}x`, s.n);
            lines.push(fresh);
            const before = accountOf(lines, all, true).received;
            all.push(...over(old, fresh, all));
            old.live = false;
            expect(accountOf(lines, all, true).received).toBe(before);
            continue;
          }
          if (s.do === 'pay') {
            all.push(...laid(allocate(lines, all, s.n)));
            came += s.n;
          } else if (s.do === 'waive') all.push(...laid(allocate(lines, all, s.n, true), true));
          else {
            const most = Math.min(s.n, accountOf(lines, all, true).received);
            const parts = allocateRefund(lines, all, most, s.do === 'refund gift');
            expect(parts.reduce((n, p) => n + p.amount, most)).toBe(0);
            all.push(...laid(parts));
            went += most;
          }
          const account = accountOf(lines, all, true);
          expect(account.received).toBe(came - went);
          expect(account.refunded).toBe(went);
          expect(account.received + account.waived + account.balance).toBe(account.due);
          expect(account.received).toBeGreaterThanOrEqual(0);
          expect(account.given).toBeGreaterThanOrEqual(0);
          expect(account.given).toBeLessThanOrEqual(donation);
        }
        // What is owed back can be paid back to the cent, and then nothing is owed either way.
        const { balance } = accountOf(lines, all, true);
        if (balance < 0) {
          all.push(...laid(allocateRefund(lines, all, -balance)));
          expect(accountOf(lines, all, true).balance).toBe(0);
        }
      },
    ),
  );
});

test('what has to come in first is all of it, or the deposit that is enough, and never less than nothing', () => {
  const order = { dueNow: null, balance: 9000, received: 0, waived: 0 };
  expect(stillNow(order)).toBe(9000);
  expect(stillNow({ ...order, balance: -500 })).toBe(0);
  expect(stillNow({ ...order, dueNow: 2000 })).toBe(2000);
  expect(stillNow({ ...order, dueNow: 2000, received: 1500, balance: 7500 })).toBe(500);
  expect(stillNow({ ...order, dueNow: 2000, received: 1500, waived: 900, balance: 6600 })).toBe(0);
  expect(stillNow({ ...order, dueNow: 2000, received: 0, waived: 8500, balance: 500 })).toBe(0);
  // What is paid later asks for nothing first.
  expect(stillNow({ ...order, dueNow: 0 })).toBe(0);
});
