import type { Account } from '#core/money/accounts.ts';
import { phrase } from '#web/words/phrase.ts';

/** How the accounts are called. */
export const accountWords: Record<Account, string> = {
  cards: phrase('ledger.accountCards'),
  bank: phrase('ledger.accountBank'),
  cash: phrase('ledger.accountCash'),
  owed: phrase('ledger.accountOwed'),
  disputed: phrase('ledger.accountDisputed'),
  'in kind': phrase('ledger.accountInKind'),
  unexplained: phrase('ledger.accountUnexplained'),
  taxes: phrase('ledger.accountTaxes'),
  seats: phrase('ledger.accountSeats'),
  extras: phrase('ledger.accountExtras'),
  kept: phrase('ledger.accountKept'),
  gifts: phrase('ledger.accountGifts'),
  discounts: phrase('ledger.accountDiscounts'),
  favours: phrase('ledger.accountFavours'),
  'written off': phrase('ledger.accountWrittenOff'),
  fees: phrase('ledger.accountFees'),
  costs: phrase('ledger.accountCosts'),
};
