import type { TFunction } from 'i18next';
import { createContext, useContext } from 'react';
import type { PublicEvent, PublicOffer } from '#contract/publicEvent.ts';
import { type Currency, sayAmount } from '#core/money/amount.ts';
import { face, sayTimeOfDay } from '#core/time/face.ts';
import { sayLongDate, sayWall as sayWallIn, sayZone } from '#core/time/say.ts';
import { useFrame } from './asking.ts';
import { language } from './language.ts';

/** What amounts are in: of an event and its bookings, what it is paid in. */
export const PaidIn = createContext<Currency | null>(null);

/** What amounts are in here: the currency of the event, or else of the organization. */
export function useCurrency(): Currency {
  const usual = useFrame().data?.organization.currency ?? 'CAD';
  return useContext(PaidIn) ?? usual;
}

/** Says amounts in the currency of where they stand, or another one, and the reader's language. */
export function useMoney(): (amount: number, of?: Currency) => string {
  const currency = useCurrency();
  return (amount, of = currency) => sayAmount(amount, of, language());
}

/** Units left from which on it is said how many there are. */
const fewLeft = 30;

/** What is said of an offer beside its name: seats in one, and how many are left. */
export function sayOffer(
  t: TFunction,
  offer: Pick<PublicEvent['offers'][number], 'seatsPerUnit' | 'left'>,
  before: string,
): string {
  return [
    before,
    offer.seatsPerUnit > 1 ? t('seatsEach', { count: offer.seatsPerUnit }) : '',
    offer.left === 0
      ? t('full')
      : offer.left !== null && offer.left <= fewLeft
        ? t('left', { count: offer.left })
        : '',
  ]
    .filter(Boolean)
    .join(', ');
}

/** A day, as it is said in a sentence. */
export const sayDay = (on: string): string => sayLongDate(on, language());

/** A wall time, as it is said beside a price: "Sat 1 Aug, 12:00". */
export const sayWall = (wall: string): string => sayWallIn(wall, language());

/** What an offer costs, with every price that is another one now. */
export function sayPrice(
  t: TFunction,
  offer: PublicOffer,
  money: (amount: number) => string,
  nowLocal: string,
): string {
  const { pricing, price, least, deposit, prices } = offer;
  if (pricing === 'pay what you can')
    return [
      t('payWhatYouCan'),
      price > 0 && t('suggested', { amount: money(price) }),
      least > 0 && t('leastIs', { amount: money(least) }),
    ]
      .filter(Boolean)
      .join(', ');
  return [
    price === 0 ? t('free') : money(price),
    ...prices.map((p) => {
      const amount = p.price === 0 ? t('free') : money(p.price);
      if (p.kind === 'members') return t('priceMembers', { amount });
      if (p.kind === 'group') return t('priceGroup', { amount, count: p.fromUnits });
      return (
        p.untilLocal && nowLocal < p.untilLocal && t('priceUntil', { amount, at: sayWall(p.untilLocal) })
      );
    }),
    pricing === 'deposit' && t('depositNow', { amount: money(deposit) }),
    pricing === 'later' && t('paidLater'),
  ]
    .filter(Boolean)
    .join(' · ');
}

/** Whom an offer is for and when it is sold, as far as that is not everybody and always. */
export function sayLimits(t: TFunction, offer: PublicOffer, nowLocal: string): string {
  const { fromAge: from, toAge: to, opensLocal, closesLocal } = offer;
  return [
    from !== null && to !== null
      ? t('agesBetween', { from, to })
      : from !== null
        ? t('agesFrom', { from })
        : to !== null && t('agesTo', { to }),
    opensLocal && nowLocal < opensLocal && t('onSaleFrom', { at: sayWall(opensLocal) }),
    closesLocal && nowLocal >= closesLocal && t('saleOver'),
  ]
    .filter(Boolean)
    .join(' · ');
}

/** An instant as wall time of a zone, in the reader's language. */
export function sayMoment(at: string, zone: string): string {
  return new Intl.DateTimeFormat(language() === 'fr' ? 'fr-CA' : 'en-GB', {
    timeZone: zone,
    weekday: 'long',
    day: 'numeric',
    month: 'long',
    hour: '2-digit',
    minute: '2-digit',
    hour12: face() === 12 && language() !== 'fr',
  }).format(new Date(at));
}

/** The time zone of the reader's device. */
export const ownZone = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone ?? '';

/** The reader's own time where it differs from the event's: "13:00 to 20:30"; null where it is the same. */
export function ownTime(
  startsAt: string | null,
  endsAt: string | null,
  zone: string,
): { zone: string; time: string } | null {
  if (!startsAt) return null;
  const own = ownZone();
  const at = (instant: string, timeZone: string) =>
    sayTimeOfDay(
      new Intl.DateTimeFormat('en-GB', {
        timeZone,
        hour: '2-digit',
        minute: '2-digit',
        hour12: false,
      }).format(new Date(instant)),
      language(),
    );
  if (at(startsAt, own) === at(startsAt, zone)) return null;
  return {
    zone: sayZone(zone),
    time: endsAt ? `${at(startsAt, own)}–${at(endsAt, own)}` : at(startsAt, own),
  };
}
