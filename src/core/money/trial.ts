import { type Account, accountNames } from './accounts.ts';
import type { Amount, Currency } from './amount.ts';

/** What an account stands at, gifts by fund. A debit where it is above nought. */
export interface Balance {
  account: Account;
  /** The fund, of gifts, and its name. */
  fundId: string | null;
  fund: string | null;
  amount: Amount;
}

/** The accounts of one currency in their order, with what all debits and all credits come to: as much as each other. */
export interface Trial {
  currency: Currency;
  balances: Balance[];
  debits: Amount;
  credits: Amount;
}

/** The trial balance of each currency, in the order in which the currencies come. */
export function trialOf(rows: readonly (Balance & { currency: Currency })[]): Trial[] {
  const of = new Map<Currency, Trial>();
  for (const { currency, ...balance } of rows) {
    const trial = of.get(currency) ?? { currency, balances: [], debits: 0, credits: 0 };
    of.set(currency, trial);
    trial.balances.push(balance);
    if (balance.amount > 0) trial.debits += balance.amount;
    else trial.credits -= balance.amount;
  }
  const place = ({ account }: Balance) => accountNames.indexOf(account);
  for (const { balances } of of.values()) balances.sort((a, b) => place(a) - place(b));
  return [...of.values()];
}
