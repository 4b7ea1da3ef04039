import type { Account } from './accounts.ts';
import type { Amount } from './amount.ts';

/** A line of the plan: what the event is to bring or to cost, in all or for each who comes. */
export interface BudgetLine {
  kind: 'income' | 'cost';
  name: string;
  amount: Amount;
  perHead: boolean;
}

/** What an event cost, by the line of the plan it belongs to; an empty one where none foresaw it. */
export interface Cost {
  line: string;
  amount: Amount;
}

/** How many it is planned for, and how many hold a seat or came. */
export interface Heads {
  planned: number;
  actual: number;
}

/** One line of the account. `account`: one of the books; null for a line of the plan. */
export interface AccountLine {
  kind: 'income' | 'cost';
  name: string;
  account: Account | null;
  planned: Amount;
  actual: Amount;
}

export interface EventAccount {
  lines: AccountLine[];
  income: { planned: Amount; actual: Amount };
  costs: { planned: Amount; actual: Amount };
  /** What stays: below nought where it cost more than it brought. */
  result: { planned: Amount; actual: Amount };
  /** What it brought and cost for each; null where nobody is counted. */
  perHead: { income: Amount; cost: Amount } | null;
  /** How many it takes until it costs nothing; null where each one more costs as much as they bring. */
  breakEven: number | null;
}

/** The lines of the plan that the books know by themselves: what was planned under these names is compared with them. */
const ofBooks = ['seats', 'extras', 'gifts'] as const;

/**
 * The account of an event: its plan beside its books. Income is what was earned, less discounts and favours, and gifts; costs are the fees
 * of cards, what was let off, and what was recorded as spent. A plan's line for seats, extras or gifts stands beside that of the books.
 */
export function accountOfEvent(
  plan: readonly BudgetLine[],
  balances: ReadonlyMap<Account, Amount>,
  costs: readonly Cost[],
  heads: Heads,
): EventAccount {
  const planned = (l: BudgetLine) => l.amount * (l.perHead ? heads.planned : 1);
  const books = (account: Account) => balances.get(account) ?? 0;
  // Earned is a credit: below nought in the books.
  const earned: [string, Account, Amount][] = [
    ['seats', 'seats', -(books('seats') + books('kept') + books('discounts') + books('favours'))],
    ['extras', 'extras', -books('extras')],
    ['gifts', 'gifts', -books('gifts')],
  ];
  const named = (name: string) => plan.filter((l) => l.kind === 'income' && l.name === name);
  const income: AccountLine[] = [
    ...earned.map(([name, account, actual]) => ({
      kind: 'income' as const,
      name,
      account,
      planned: named(name).reduce((sum, l) => sum + planned(l), 0),
      actual,
    })),
    ...plan
      .filter((l) => l.kind === 'income' && !ofBooks.some((name) => name === l.name))
      .map((l) => ({ kind: 'income' as const, name: l.name, account: null, planned: planned(l), actual: 0 })),
  ].filter((l) => l.planned !== 0 || l.actual !== 0);
  const spent = (name: string) => costs.reduce((sum, c) => sum + (c.line === name ? c.amount : 0), 0);
  const names = new Set(plan.filter((l) => l.kind === 'cost').map((l) => l.name));
  const cost: AccountLine[] = [
    ...plan
      .filter((l) => l.kind === 'cost')
      .map((l) => ({
        kind: 'cost' as const,
        name: l.name,
        account: null,
        planned: planned(l),
        actual: spent(l.name),
      })),
    {
      kind: 'cost' as const,
      name: '',
      account: 'costs' as const,
      planned: 0,
      actual: costs.reduce((sum, c) => sum + (names.has(c.line) ? 0 : c.amount), 0),
    },
    ...(['fees', 'written off'] as const).map((account) => ({
      kind: 'cost' as const,
      name: account,
      account,
      planned: 0,
      actual: books(account),
    })),
  ].filter((l) => l.planned !== 0 || l.actual !== 0);
  const sum = (lines: readonly AccountLine[]) => ({
    planned: lines.reduce((total, l) => total + l.planned, 0),
    actual: lines.reduce((total, l) => total + l.actual, 0),
  });
  const [inAll, spentInAll] = [sum(income), sum(cost)];
  return {
    lines: [...income, ...cost],
    income: inAll,
    costs: spentInAll,
    result: { planned: inAll.planned - spentInAll.planned, actual: inAll.actual - spentInAll.actual },
    perHead: heads.actual
      ? {
          income: Math.round(inAll.actual / heads.actual),
          cost: Math.round(spentInAll.actual / heads.actual),
        }
      : null,
    breakEven: breakEvenOf(plan, earned[0]![2], heads),
  };
}

/**
 * How many it takes: what it costs whoever comes, less what comes in whoever comes, over what each brings beyond what they cost. What
 * each brings is planned, or else what seats brought for each so far.
 */
function breakEvenOf(plan: readonly BudgetLine[], seats: Amount, heads: Heads): number | null {
  const of = (kind: BudgetLine['kind'], perHead: boolean) =>
    plan.reduce((sum, l) => sum + (l.kind === kind && l.perHead === perHead ? l.amount : 0), 0);
  const each = of('income', true) || (heads.actual ? Math.round(seats / heads.actual) : 0);
  const margin = each - of('cost', true);
  const fixed = of('cost', false) - of('income', false);
  if (fixed <= 0) return 0;
  return margin > 0 ? Math.ceil(fixed / margin) : null;
}
