import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Account } from './accounts.ts';
import { accountOfEvent, type BudgetLine } from './eventAccount.ts';

const books = (of: Partial<Record<Account, number>>) => new Map(Object.entries(of) as [Account, number][]);
const line = (kind: BudgetLine['kind'], name: string, amount: number, perHead = false): BudgetLine => ({
  kind,
  name,
  amount,
  perHead,
});

describe('the account of a supper, worked by hand', () => {
  const plan = [
    line('income', 'seats', 4500, true),
    line('income', 'gifts', 50_000),
    line('income', 'Grant of the town', 30_000),
    line('cost', 'Hall', 80_000),
    line('cost', 'Meals', 2200, true),
  ];
  const made = accountOfEvent(
    plan,
    books({
      seats: -500_000,
      discounts: 20_000,
      favours: 4500,
      kept: -2500,
      gifts: -61_000,
      fees: 14_000,
      'written off': 4500,
      cards: 999,
      taxes: -777,
    }),
    [
      { line: 'Hall', amount: 80_000 },
      { line: 'Meals', amount: 231_000 },
      { line: '', amount: 3000 },
      { line: 'gone from the plan', amount: 1000 },
    ],
    { planned: 120, actual: 104 },
  );
  test('planned and actual stand side by side', () => {
    expect(made.lines.map((l) => [l.kind, l.name, l.planned, l.actual])).toEqual([
      ['income', 'seats', 540_000, 478_000],
      ['income', 'gifts', 50_000, 61_000],
      ['income', 'Grant of the town', 30_000, 0],
      ['cost', 'Hall', 80_000, 80_000],
      ['cost', 'Meals', 264_000, 231_000],
      ['cost', '', 0, 4000],
      ['cost', 'fees', 0, 14_000],
      ['cost', 'written off', 0, 4500],
    ]);
    expect(made.income).toEqual({ planned: 620_000, actual: 539_000 });
    expect(made.costs).toEqual({ planned: 344_000, actual: 333_500 });
    expect(made.result).toEqual({ planned: 276_000, actual: 205_500 });
  });
  test('for each who came, and how many it takes', () => {
    expect(made.perHead).toEqual({ income: 5183, cost: 3207 });
    // The hall is paid by the gifts and the grant that are planned.
    expect(made.breakEven).toBe(0);
    const alone = accountOfEvent(
      [line('cost', 'Hall', 80_000), line('cost', 'Meals', 2200, true), line('income', 'seats', 4500, true)],
      books({}),
      [],
      { planned: 100, actual: 0 },
    );
    // 800.00 over 23.00 each.
    expect(alone.breakEven).toBe(35);
    expect(alone.perHead).toBeNull();
    // Where no price is planned, what seats brought for each so far.
    expect(
      accountOfEvent([line('cost', 'Hall', 10_000)], books({ seats: -8000 }), [], { planned: 0, actual: 4 })
        .breakEven,
    ).toBe(5);
    expect(
      accountOfEvent(
        [
          line('cost', 'Hall', 10_000),
          line('cost', 'Meals', 9000, true),
          line('income', 'seats', 9000, true),
        ],
        books({}),
        [],
        { planned: 0, actual: 0 },
      ).breakEven,
    ).toBeNull();
  });
});

test('its lines come to its sums, and with as many as it takes it costs nothing', () => {
  const amount = fc.integer({ min: 0, max: 100_000 });
  const aLine = fc.record({
    kind: fc.constantFrom('income' as const, 'cost' as const),
    name: fc.constantFrom('seats', 'Hall', 'Meals'),
    amount,
    perHead: fc.boolean(),
  });
  fc.assert(
    fc.property(
      fc.array(aLine, { maxLength: 8 }),
      amount,
      amount,
      fc.nat(300),
      (plan, seats, fees, actual) => {
        const of = (planned: number) =>
          accountOfEvent(plan, books({ seats: 0 - seats, fees }), [], { planned, actual });
        const made = of(50);
        for (const which of ['planned', 'actual'] as const) {
          const sum = (kind: string) =>
            made.lines.reduce((total, l) => total + (l.kind === kind ? l[which] : 0), 0);
          expect(sum('income') - sum('cost')).toBe(made.result[which]);
        }
        if (made.breakEven !== null && plan.some((l) => l.kind === 'income' && l.perHead && l.amount > 0)) {
          expect(of(made.breakEven).result.planned).toBeGreaterThanOrEqual(0);
          if (made.breakEven > 0) expect(of(made.breakEven - 1).result.planned).toBeLessThan(0);
        }
      },
    ),
  );
});
