import type { TFunction } from 'i18next';
import type { PublicEvent } from '#contract/registration.ts';
import { sayAmount } from '#core/money/amount.ts';
import { face, sayTimeOfDay } from '#core/time/face.ts';
import { sayZone } from '#core/time/say.ts';
import { useFrame } from './asking.ts';
import { language } from './language.ts';

/** Says amounts in the organization's currency and the reader's language. */
export function useMoney(): (amount: number) => string {
  const currency = useFrame().data?.organization.currency ?? 'CAD';
  return (amount) => sayAmount(amount, currency, language());
}

/** Units left from which on it is said how many there are. */
const fewLeft = 30;

/** What is said of an offer beside its name: seats in one, and how many are left. `none` is the word for none. */
export function sayOffer(
  t: TFunction,
  offer: Pick<PublicEvent['offers'][number], 'seatsPerUnit' | 'left'>,
  before: string,
  none: 'full' | 'soldOut',
): string {
  return [
    before,
    offer.seatsPerUnit > 1 ? t('seatsEach', { count: offer.seatsPerUnit }) : '',
    offer.left === 0
      ? t(none)
      : offer.left !== null && offer.left <= fewLeft
        ? t('left', { count: offer.left })
        : '',
  ]
    .filter(Boolean)
    .join(', ');
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

/** The reader's own time where it differs from the event's: "13:00 to 20:30"; null where it is the same. */
export function ownTime(
  startsAt: string | null,
  endsAt: string | null,
  zone: string,
): { zone: string; time: string } | null {
  if (!startsAt) return null;
  const own = Intl.DateTimeFormat().resolvedOptions().timeZone;
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
