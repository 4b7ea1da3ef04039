import { type Account, accountOfMethod } from '#core/money/accounts.ts';
import { type Amount, type Currency, sameFigure } from '#core/money/amount.ts';
import { type Entry, together } from '#core/money/posting.ts';
import type { Language } from '#core/words/language.ts';

/** How somebody is remembered by a gift. */
export const tributes = ['memory', 'honour'] as const;
export type Tribute = (typeof tributes)[number];

export const giftStates = ['open', 'given', 'part returned', 'returned', 'lapsed'] as const;
export type GiftState = (typeof giftStates)[number];

/** Money that came in for a gift, or went back (below nought). */
export interface GiftMoney {
  method: keyof typeof accountOfMethod;
  amount: Amount;
  /** It came back: what it had been returned with did not go through. */
  undoes: boolean;
}

/** How the books stand for a gift: what came in, on the account it came into and as given to its fund. Before that it is no gift. */
export const booksOfGift = (moved: readonly GiftMoney[], fundId: string): Entry[] =>
  together(
    moved.flatMap(({ method, amount }): Entry[] => [
      { account: accountOfMethod[method] as Account, fundId: null, amount },
      { account: 'gifts', fundId, amount: -amount },
    ]),
  );

/** What a gift stands at by what moved for it. */
export function standsAt(moved: readonly GiftMoney[]): { received: Amount; state: GiftState } {
  const came = moved.reduce((sum, m) => sum + (m.amount > 0 && !m.undoes ? m.amount : 0), 0);
  const received = moved.reduce((sum, m) => sum + m.amount, 0);
  const state =
    came === 0 ? 'open' : received <= 0 ? 'returned' : received < came ? 'part returned' : 'given';
  return { received, state };
}

/** How far a page is towards its goal: from 0 on, in hundredths; more than 100 where it was passed. Null without a goal. */
export const progressOf = (goal: Amount | null, given: Amount): number | null =>
  goal === null ? null : Math.floor((given / goal) * 100);

/** How a giver is shown to the public: by their name, or not at all where they wish so. */
export const shownAs = (giver: { given: string; family: string; anonymous: boolean }): string | null =>
  giver.anonymous ? null : `${giver.given} ${giver.family}`.trim() || null;

/** Amounts that are suggested where nothing else says: 10, 25 and 50 as they read in the currency. None is chosen beforehand. */
export const usualGifts = (currency: Currency): Amount[] =>
  [1000, 2500, 5000].map((amount) => sameFigure(amount, 'CAD', currency));

/** How a tribute is said beside a gift. */
export const sayTribute = (
  of: { tribute: Tribute | null; tributeTo: string },
  language: Language,
): string | null =>
  of.tribute === null
    ? null
    : language === 'fr'
      ? `${of.tribute === 'memory' ? 'à la mémoire de' : 'en l’honneur de'} ${of.tributeTo}`
      : `in ${of.tribute === 'memory' ? 'memory' : 'honour'} of ${of.tributeTo}`;
