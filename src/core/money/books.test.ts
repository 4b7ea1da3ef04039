import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { accountNames, accounts } from './accounts.ts';
import { type BookedLine, booksOf, type Laid, postingsThrough } from './books.ts';
import { accountOf, allocate, allocateRefund, lineAccount } from './lines.ts';
import { type Entry, isBalanced, kindOf, together, toPost } from './posting.ts';
import { trialOf } from './trial.ts';

const line = (id: string, unitPrice: number, more: Partial<BookedLine> = {}): BookedLine => ({
  id,
  kind: 'seats',
  unitPrice,
  discount: 0,
  tax: 0,
  taxIncluded: 0,
  fundId: null,
  live: true,
  ...more,
});
const came = (lineId: string | null, amount: number, method: Laid['method'] = 'card'): Laid => ({
  lineId,
  amount,
  method,
  moved: false,
  undoes: false,
});
/** Accounts by name, gifts with their fund. */
const said = (entries: readonly Entry[]): Record<string, number> =>
  Object.fromEntries(entries.map((e) => [e.fundId ? `${e.account} ${e.fundId}` : e.account, e.amount]));

describe('the books of one order, worked by hand', () => {
  test('nothing is owed before it is confirmed; then what was booked is, with its discount and its taxes', () => {
    // 100.00 less 20.00, and 5 % and 9.975 % on the rest: 4.00 + 7.98.
    const seat = line('a', 10_000, { discount: 2000, tax: 1198 });
    expect(booksOf([seat], [], false)).toEqual([]);
    expect(said(booksOf([seat], [], true))).toEqual({
      owed: 9198,
      seats: -10_000,
      discounts: 2000,
      taxes: -1198,
    });
  });

  test('a tax that is in the price already is nobody’s income', () => {
    // 119.00 with 19 % in it: 100.00 and 19.00.
    expect(said(booksOf([line('a', 11_900, { taxIncluded: 1900 })], [came('a', 11_900)], true))).toEqual({
      cards: 11_900,
      seats: -10_000,
      taxes: -1900,
    });
  });

  test('a deposit stands against what is owed, and a gift counts as far as it came in', () => {
    const lines = [line('a', 6000), line('g', 2500, { kind: 'gift', fundId: 'hide' })];
    expect(said(booksOf(lines, [came('a', 2000, 'transfer')], true))).toEqual({
      bank: 2000,
      owed: 4000,
      seats: -6000,
    });
    const paid = [came('a', 6000, 'cheque'), came('g', 1500, 'cheque')];
    expect(said(booksOf(lines, paid, true))).toEqual({ cash: 7500, 'gifts hide': -1500, seats: -6000 });
  });

  test('money that came for seats nobody has yet is owed back', () => {
    expect(said(booksOf([line('a', 6000)], [came('a', 2000)], false))).toEqual({ cards: 2000, owed: -2000 });
  });

  test('given up with half kept: the seat is no income any more, what stays is', () => {
    const lines = [line('a', 4000, { live: false }), line('k', 2000, { kind: 'kept' })];
    expect(said(booksOf(lines, [came('a', 4000)], true))).toEqual({ cards: 4000, owed: -2000, kept: -2000 });
    const back = [came('a', 4000), came('a', -2000)];
    expect(said(booksOf(lines, back, true))).toEqual({ cards: 2000, kept: -2000 });
  });

  test('a favour lowers what was earned and not what was asked; what is let off is written off', () => {
    expect(said(booksOf([line('a', 5000)], [came('a', 5000), came('a', -1000)], true))).toEqual({
      cards: 4000,
      favours: 1000,
      seats: -5000,
    });
    expect(said(booksOf([line('a', 5000)], [came('a', 2000), came('a', 3000, 'waived')], true))).toEqual({
      cards: 2000,
      'written off': 3000,
      seats: -5000,
    });
    // Let off, and then given up: nothing was lost by it.
    expect(booksOf([line('a', 5000, { live: false })], [came('a', 5000, 'waived')], true)).toEqual([]);
  });

  test('another ticket: what came in goes along, and no money moves', () => {
    const lines = [line('a', 2500, { live: false }), line('b', 4000)];
    const laid = [came('a', 2500), { ...came('a', -2500), moved: true }, { ...came('b', 2500), moved: true }];
    expect(said(booksOf(lines, laid, true))).toEqual({ cards: 2500, owed: 1500, seats: -4000 });
  });
});

describe('postings', () => {
  const a = (account: Entry['account'], amount: number, fundId: string | null = null): Entry => ({
    account,
    fundId,
    amount,
  });
  test('are balanced or none', () => {
    expect(isBalanced([a('bank', 5), a('gifts', -5, 'x')])).toBe(true);
    expect(isBalanced([a('bank', 5), a('gifts', -4, 'x')])).toBe(false);
    expect(isBalanced([a('bank', 0), a('gifts', 0, 'x')])).toBe(false);
    expect(isBalanced([a('bank', 5), a('gifts', -5, 'x'), a('fees', 0)])).toBe(false);
  });
  test('take what stands to what should stand, fund by fund', () => {
    expect(toPost([a('bank', 9), a('gifts', -9, 'x')], [a('bank', 9), a('gifts', -9, 'y')])).toEqual([
      a('gifts', -9, 'x'),
      a('gifts', 9, 'y'),
    ]);
    expect(toPost([a('bank', 9)], [a('bank', 4), a('bank', 5)])).toEqual([]);
  });
  test('say what they are about', () => {
    expect(kindOf([a('owed', 50), a('seats', -50)])).toBe('booked');
    expect(kindOf([a('bank', 50), a('owed', -50)])).toBe('received');
    // Paid and confirmed at once: money came.
    expect(kindOf([a('cards', 50), a('seats', -50)])).toBe('received');
    expect(kindOf([a('owed', 20), a('cards', -20)])).toBe('returned');
    expect(kindOf([a('written off', 20), a('owed', -20)])).toBe('let off');
    expect(kindOf([a('seats', 20), a('owed', -20)])).toBe('changed');
  });
  test('every account is of one kind', () => {
    expect(accountNames).toHaveLength(new Set(accountNames).size);
    for (const name of accountNames)
      expect(['asset', 'liability', 'income', 'expense']).toContain(accounts[name]);
  });
});

test('a trial balance has each currency by itself, its accounts in their order, and both sides come to the same', () => {
  const of = (currency: string, account: Entry['account'], amount: number, fund: string | null = null) => ({
    currency,
    account,
    fundId: fund && 'f-1',
    fund,
    amount,
  });
  expect(
    trialOf([
      of('CAD', 'gifts', -500, 'General'),
      of('CAD', 'seats', -2000),
      of('EUR', 'cards', 300),
      of('CAD', 'cards', 2500),
      of('EUR', 'owed', -300),
    ]),
  ).toEqual([
    {
      currency: 'CAD',
      balances: [
        { account: 'cards', fundId: null, fund: null, amount: 2500 },
        { account: 'seats', fundId: null, fund: null, amount: -2000 },
        { account: 'gifts', fundId: 'f-1', fund: 'General', amount: -500 },
      ],
      debits: 2500,
      credits: 2500,
    },
    {
      currency: 'EUR',
      balances: [
        { account: 'cards', fundId: null, fund: null, amount: 300 },
        { account: 'owed', fundId: null, fund: null, amount: -300 },
      ],
      debits: 300,
      credits: 300,
    },
  ]);
  expect(trialOf([])).toEqual([]);
});

test('an order that was there before is posted as it went: paid, confirmed, partly given up, money back', () => {
  const at = (day: number) => `2026-07-0${day}T12:00:00.000Z`;
  const lines = [
    { ...line('a', 4000), from: at(1), until: null },
    { ...line('b', 4000, { live: false }), from: at(1), until: at(4) },
    { ...line('k', 1000, { kind: 'kept' }), from: at(4), until: null },
  ];
  const laid = [
    { ...came('a', 4000), at: at(2) },
    { ...came('b', 4000), at: at(2) },
    { ...came('b', -3000), at: at(5) },
  ];
  const through = postingsThrough(lines, laid, at(2));
  expect(through.map((p) => [p.at.slice(9, 10), said(p.entries)])).toEqual([
    ['2', { cards: 8000, seats: -8000 }],
    ['4', { owed: -3000, seats: 4000, kept: -1000 }],
    ['5', { cards: -3000, owed: 3000 }],
  ]);
  for (const p of through) expect(isBalanced(p.entries)).toBe(true);
  expect(said(together(through.flatMap((p) => p.entries)))).toEqual(said(booksOf(lines, laid, true)));
  expect(postingsThrough(lines, laid, null).map((p) => said(p.entries))).toEqual([
    { cards: 8000, owed: -8000 },
    // What is kept by the terms is, whether somebody has a seat for certain or not.
    { owed: 1000, kept: -1000 },
    { cards: -3000, owed: 3000 },
  ]);
});

test('through any sequence of payments, refunds, favours and giving up, the books balance and agree with the order', () => {
  const step = fc.record({
    do: fc.constantFrom('pay', 'waive', 'refund', 'gift back', 'give up', 'confirm', 'end', 'all given up'),
    amount: fc.integer({ min: 1, max: 30_000 }),
    method: fc.constantFrom('card', 'cash', 'cheque', 'transfer' as const),
    at: fc.nat(),
  });
  const aLine = fc
    .record({
      kind: fc.constantFrom('seats', 'extra', 'gift', 'kept' as const),
      unitPrice: fc.integer({ min: 0, max: 20_000 }),
      discount: fc.integer({ min: 0, max: 5000 }),
      tax: fc.integer({ min: 0, max: 900 }),
      included: fc.integer({ min: 0, max: 900 }),
    })
    .map(({ kind, unitPrice, discount, tax, included }) => ({
      kind,
      unitPrice,
      discount: kind === 'gift' ? 0 : Math.min(discount, unitPrice),
      tax: kind === 'gift' ? 0 : tax,
      taxIncluded: kind === 'gift' ? 0 : Math.min(included, unitPrice),
      fundId: kind === 'gift' ? 'general' : null,
      live: true,
    }));
  fc.assert(
    fc.property(
      fc.array(aLine, { minLength: 1, maxLength: 6 }),
      fc.array(step, { maxLength: 40 }),
      (of, steps) => {
        let lines: BookedLine[] = of.map((l, n) => ({ ...l, id: `l${n}` }));
        const laid: (Laid & { waived: boolean })[] = [];
        let confirmed = false;
        let posted: Entry[] = [];
        for (const s of steps) {
          const parts = (p: { lineId: string | null; amount: number }[], method: Laid['method']) =>
            laid.push(
              ...p.map((x) => ({ ...x, method, moved: false, undoes: false, waived: method === 'waived' })),
            );
          const received = () => accountOf(lines, laid, confirmed).received;
          if (s.do === 'pay') parts(allocate(lines, laid, s.amount), s.method);
          if (s.do === 'waive') parts(allocate(lines, laid, s.amount, true), 'waived');
          if (s.do === 'refund' || s.do === 'gift back')
            parts(
              allocateRefund(lines, laid, Math.min(s.amount, received()), s.do === 'gift back'),
              s.method,
            );
          if (s.do === 'give up')
            lines = lines.map((l, n) =>
              n === s.at % lines.length && l.kind === 'seats' ? { ...l, live: false } : l,
            );
          if (s.do === 'end') lines = lines.map((l) => ({ ...l, live: l.kind === 'kept' }));
          // Nobody of it has a seat any more; what is kept by the terms stays.
          if (s.do === 'all given up') confirmed = false;
          if (s.do === 'confirm') confirmed = true;
          // Each step posts what has changed, and only that.
          const should = booksOf(lines, laid, confirmed);
          const posting = toPost(should, posted);
          if (posting.length) expect(isBalanced(posting)).toBe(true);
          posted = together([...posted, ...posting]);
          expect(said(posted)).toEqual(said(should));

          const stands = said(posted);
          const account = accountOf(lines, laid, confirmed);
          const money = (stands.cards ?? 0) + (stands.bank ?? 0) + (stands.cash ?? 0);
          expect(money).toBe(account.received);
          expect(0 - (stands['gifts general'] ?? 0)).toBe(account.given);
          const promised = lines
            .filter((l) => l.kind === 'gift')
            .reduce((sum, l) => sum + lineAccount(l, laid).balance, 0);
          // As long as nobody has a seat for certain, only what is kept is asked.
          const asked = lines.map((l) => ({
            ...l,
            live: l.live && (confirmed || l.kind === 'kept' || l.kind === 'gift'),
          }));
          expect(stands.owed ?? 0).toBe(accountOf(asked, laid, confirmed).balance - promised);
        }
      },
    ),
    { numRuns: 400 },
  );
});
