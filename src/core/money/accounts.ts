/** What an account holds: what the organization has, owes, earns or spends. */
export type AccountKind = 'asset' | 'liability' | 'income' | 'expense';

/**
 * The accounts of the books. Amounts are debits where they are positive and credits where they are negative, so the entries of a posting
 * add up to nothing and so do all accounts together.
 */
export const accounts = {
  /** Money taken by card that the processor has not paid out yet. */
  cards: 'asset',
  bank: 'asset',
  /** Cash and cheques on hand. */
  cash: 'asset',
  /** What people owe for what they booked; below nought, what is owed to them. */
  owed: 'asset',
  /** Card payments that somebody contests, until it is decided. */
  disputed: 'asset',
  /** What was given in kind. */
  'in kind': 'asset',
  /** What moved at the processor or the bank and nobody has said yet what it is. */
  unexplained: 'liability',
  /** What volunteers left as a deposit. */
  deposits: 'liability',
  /** Taxes that were taken along and are to be handed on. */
  taxes: 'liability',
  seats: 'income',
  extras: 'income',
  /** What stayed of seats that were given up, and of deposits, by the terms. */
  kept: 'income',
  /** Gifts, each to a fund. */
  gifts: 'income',
  /** Prices that a code or a guest list lowered. */
  discounts: 'expense',
  /** Money that went back for seats that were kept: a favour. */
  favours: 'expense',
  /** What was let off, or given up as lost. */
  'written off': 'expense',
  /** What the processor keeps for itself. */
  fees: 'expense',
  /** What was spent for events. */
  costs: 'expense',
} as const satisfies Record<string, AccountKind>;
export type Account = keyof typeof accounts;
export const accountNames = Object.keys(accounts) as Account[];

/** How money moves, and the account that it comes into or goes out of. `waived` moves none. */
export const accountOfMethod = {
  card: 'cards',
  transfer: 'bank',
  cash: 'cash',
  cheque: 'cash',
  /** What the processor took back for good, because the bank of whoever paid decided so. */
  contested: 'disputed',
  'in kind': 'in kind',
} as const satisfies Record<string, Account>;
