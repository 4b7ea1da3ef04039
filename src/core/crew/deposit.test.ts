import fc from 'fast-check';
import { expect, test } from 'vitest';
import { isBalanced } from '#core/money/posting.ts';
import {
  booksOfDeposit,
  type DepositMoney,
  type Duty,
  depositBacks,
  depositStands,
  dueBack,
} from './deposit.ts';

const duty = (state: Duty['state'], hours = 4, noticeHours: number | null = null): Duty => ({
  state,
  hours,
  noticeHours,
});
const back = (rule: (typeof depositBacks)[number], duties: Duty[], held = 2000) => {
  const { amount, why } = dueBack({ back: rule, noticeHours: 24 }, held, duties, false);
  return [amount, why.code];
};

test('what goes back, worked by hand', () => {
  const both = [duty('served', 4), duty('missed', 2)];
  expect(back('every', [duty('served'), duty('served')])).toEqual([2000, 'served']);
  expect(back('every', both)).toEqual([0, 'missed']);
  expect(back('any', both)).toEqual([2000, 'missed']);
  expect(back('any', [duty('missed')])).toEqual([0, 'missed']);
  // Four of six hours of 20.00 are 13.33.
  expect(back('share', both)).toEqual([1333, 'share']);
  expect(back('share', [duty('missed')])).toEqual([0, 'share']);
  // Nobody put them on anything, or nobody ticked anybody off.
  expect(back('every', [])).toEqual([2000, 'no shift']);
  expect(back('every', [duty('agreed')])).toEqual([2000, 'served']);
  // Given back a day before, or later.
  expect(back('every', [duty('dropped', 4, 24)])).toEqual([2000, 'no shift']);
  expect(back('every', [duty('dropped', 4, 23.5), duty('served')])).toEqual([0, 'missed']);
  const off = dueBack({ back: 'every', noticeHours: 24 }, 2000, [duty('missed')], true);
  expect(off).toEqual({ amount: 2000, why: { code: 'called off', params: {} } });
});

const duties = fc.array(
  fc.record({
    state: fc.constantFrom<Duty['state']>('agreed', 'served', 'missed', 'dropped'),
    hours: fc.integer({ min: 1, max: 40 }).map((n) => n / 4),
    noticeHours: fc.integer({ min: 0, max: 72 }),
  }),
  { maxLength: 6 },
);
test('never more goes back than there is, and never less for having served more', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...depositBacks),
      fc.integer({ min: 1, max: 10_000 }),
      duties,
      (rule, held, of) => {
        const terms = { back: rule, noticeHours: 24 };
        const before = dueBack(terms, held, of, false).amount;
        expect(before).toBeGreaterThanOrEqual(0);
        expect(before).toBeLessThanOrEqual(held);
        for (const at of of.keys()) {
          const better = of.map((d, n) => (n === at ? { ...d, state: 'served' as const } : d));
          const counts = of[at]!.state !== 'dropped' || of[at]!.noticeHours < 24;
          if (counts) expect(dueBack(terms, held, better, false).amount).toBeGreaterThanOrEqual(before);
        }
      },
    ),
  );
});

const money = (method: DepositMoney['method'], amount: number, undoes = false): DepositMoney => ({
  method,
  amount,
  undoes,
});
test('the books add up, and what is held is owed to whoever left it', () => {
  expect(booksOfDeposit([money('card', 2000)], 0)).toEqual([
    { account: 'cards', fundId: null, amount: 2000 },
    { account: 'deposits', fundId: null, amount: -2000 },
  ]);
  expect(booksOfDeposit([money('cash', 2000), money('cash', -1333)], 667)).toEqual([
    { account: 'cash', fundId: null, amount: 667 },
    { account: 'kept', fundId: null, amount: -667 },
  ]);
  expect(booksOfDeposit([money('card', 2000), money('card', -2000)], 0)).toEqual([]);
  fc.assert(
    fc.property(fc.array(fc.integer({ min: -500, max: 500 })), fc.nat(500), (amounts, kept) => {
      const moved = amounts.filter((a) => a !== 0).map((amount) => money('card', amount));
      expect(isBalanced(booksOfDeposit(moved, kept))).toBe(true);
    }),
  );
});

test('what it stands at', () => {
  const open = { settled: false, letOff: false, kept: 0 };
  const state = (moved: DepositMoney[], of: Partial<typeof open> = {}) => {
    const stands = depositStands(moved, { ...open, ...of });
    return [stands.state, stands.received, stands.kept];
  };
  expect(state([])).toEqual(['asked', 0, 0]);
  expect(state([], { letOff: true })).toEqual(['let off', 0, 0]);
  expect(state([money('card', 2000)])).toEqual(['held', 2000, 0]);
  const settled = { settled: true };
  expect(state([money('card', 2000), money('card', -2000)], settled)).toEqual(['returned', 0, 0]);
  expect(state([money('card', 2000), money('card', -500)], { ...settled, kept: 1500 })).toEqual([
    'part returned',
    1500,
    1500,
  ]);
  expect(state([money('card', 2000)], { ...settled, kept: 2000 })).toEqual(['kept', 2000, 2000]);
  // The refund came back: it is owed again.
  const failed = [money('card', 2000), money('card', -2000), money('card', 2000, true)];
  expect(state(failed, settled)).toEqual(['owed', 2000, 0]);
  // The bank took it back: there is nothing to keep, and before it was settled it is asked for again.
  const contested = [money('card', 2000), money('contested', -2000)];
  expect(state(contested)).toEqual(['asked', 0, 0]);
  expect(state(contested, { ...settled, kept: 2000 })).toEqual(['returned', 0, 0]);
});
