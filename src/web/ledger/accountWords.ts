import type { Account } from '#core/money/accounts.ts';
import type { PostingKind } from '#core/money/posting.ts';
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
  deposits: phrase('ledger.accountDeposits'),
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

/** What a posting is about. */
export const postingWords: Record<PostingKind, string> = {
  booked: phrase('ledger.postedBooked'),
  changed: phrase('ledger.postedChanged'),
  received: phrase('ledger.postedReceived'),
  returned: phrase('ledger.postedReturned'),
  'let off': phrase('ledger.postedLetOff'),
  fee: phrase('ledger.postedFee'),
  disputed: phrase('ledger.postedDisputed'),
  'paid out': phrase('ledger.postedPaidOut'),
  'set aside': phrase('ledger.postedSetAside'),
  banked: phrase('ledger.postedBanked'),
  cost: phrase('ledger.postedCost'),
};
