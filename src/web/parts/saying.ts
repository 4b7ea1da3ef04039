import { sayAmount } from '#core/money/amount.ts';
import { sayShortDate, sayTime } from '#core/time/say.ts';
import { sayInstant } from '#core/time/sayInstant.ts';
import { dateOf, wallOf } from '#core/time/wallTime.ts';
import { spokenLanguage } from '#web/words/phrase.ts';
import { useMe } from './ask.ts';

/** A number of things, with its thousands parted: "12,408". */
export const sayCount = (n: number): string => n.toLocaleString(`${spokenLanguage()}-CA`);

/** Says amounts and instants as the organization does. */
export function useSaying() {
  const me = useMe().data;
  const currency = me?.organization.currency ?? 'CAD';
  const zone = me?.organization.zone ?? 'UTC';
  return {
    currency,
    zone,
    now: me?.clock.now ?? new Date(0).toISOString(),
    today: dateOf(me?.clock.now ?? new Date(0).toISOString(), zone),
    money: (amount: number) => sayAmount(amount, currency),
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
