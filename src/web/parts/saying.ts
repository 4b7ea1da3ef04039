import { createContext, useContext } from 'react';
import { type Currency, sayAmount, sayExactAmount } from '#core/money/amount.ts';
import { sayShortDate, sayTime } from '#core/time/say.ts';
import { sayInstant } from '#core/time/sayInstant.ts';
import { dateOf, wallOf } from '#core/time/wallTime.ts';
import { spokenLanguage } from '#web/words/phrase.ts';
import { useMe } from './ask.ts';

/** A number of things, with its thousands parted: "12,408". */
export const sayCount = (n: number): string => n.toLocaleString(`${spokenLanguage()}-CA`);

/** A number with just so many decimals, as in a column where figures line up. */
export const sayFigure = (n: number, digits: number): string =>
  n.toLocaleString(`${spokenLanguage()}-CA`, {
    minimumFractionDigits: digits,
    maximumFractionDigits: digits,
  });

/** What amounts are in on a part of the screen, where that is not the currency of the organization: that of an event. */
export const PaidIn = createContext<Currency | null>(null);

/** Says amounts and instants as the organization does, amounts in the currency of where they stand. */
export function useSaying() {
  const me = useMe().data;
  const currency = useContext(PaidIn) ?? me?.organization.currency ?? 'CAD';
  const zone = me?.organization.zone ?? 'UTC';
  return {
    currency,
    zone,
    now: me?.clock.now ?? new Date(0).toISOString(),
    today: dateOf(me?.clock.now ?? new Date(0).toISOString(), zone),
    money: (amount: number, of = currency) => sayAmount(amount, of),
    /** The same in a column, where figures line up. */
    figure: (amount: number, of = currency) => sayExactAmount(amount, of),
    /** Sums of several currencies, one after the other; nothing given is none of the organization's. */
    sums: (of: readonly { amount: number; currency: Currency }[]) =>
      of.map((s) => sayAmount(s.amount, s.currency)).join(', ') || sayAmount(0, currency),
    at: (instant: string | null) => (instant ? sayInstant(instant, zone, spokenLanguage()) : ''),
    day: (instant: string | null) =>
      instant ? sayShortDate(wallOf(instant, zone), false, spokenLanguage()) : '',
    timeOfDay: (instant: string | null) => (instant ? sayTime(wallOf(instant, zone)) : ''),
    dayAndYear: (instant: string | null) =>
      instant
        ? `${sayShortDate(wallOf(instant, zone), false, spokenLanguage())} ${wallOf(instant, zone).slice(0, 4)}`
        : '',
  };
}
