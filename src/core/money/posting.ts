import type { Account } from './accounts.ts';
import type { Amount } from './amount.ts';

/** One side of a posting: an amount on an account, a debit where it is positive. Gifts say to which fund. */
export interface Entry {
  account: Account;
  fundId: string | null;
  amount: Amount;
}

/** True where the entries of a posting add up to nothing, and none of them is nothing itself. */
export const isBalanced = (entries: readonly Entry[]): boolean =>
  entries.every((e) => e.amount !== 0) && entries.reduce((sum, e) => sum + e.amount, 0) === 0;

const keyOf = (e: Omit<Entry, 'amount'>): string => `${e.account} ${e.fundId ?? ''}`;

/** The entries of one account and fund together, in the order of their first; what adds up to nothing is left out. */
export function together(entries: readonly Entry[]): Entry[] {
  const of = new Map<string, Entry>();
  for (const e of entries) {
    const known = of.get(keyOf(e));
    if (known) known.amount += e.amount;
    else of.set(keyOf(e), { ...e });
  }
  return [...of.values()].filter((e) => e.amount !== 0);
}

/** What has to be posted for the accounts to stand as they should, where they stand as they do. */
export const toPost = (should: readonly Entry[], stands: readonly Entry[]): Entry[] =>
  together([...should, ...stands.map((e) => ({ ...e, amount: 0 - e.amount }))]);

/** What a posting is about. */
export const postingKinds = [
  'booked',
  'changed',
  'received',
  'returned',
  'let off',
  'fee',
  'disputed',
  'paid out',
  'set aside',
  'banked',
  'cost',
] as const;
export type PostingKind = (typeof postingKinds)[number];

/** What a posting is about: money that came or went, something let off, something booked, or a change of what was. */
export function kindOf(entries: readonly Entry[]): PostingKind {
  const of = (...names: readonly Account[]) =>
    entries.reduce((sum, e) => sum + (names.includes(e.account) ? e.amount : 0), 0);
  const moved = of('cards', 'bank', 'cash', 'in kind');
  if (moved !== 0) return moved > 0 ? 'received' : 'returned';
  if (of('disputed') !== 0) return 'disputed';
  if (of('written off') > 0) return 'let off';
  return of('owed') > 0 ? 'booked' : 'changed';
}
