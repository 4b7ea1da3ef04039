import type { EnteredCode, PublicEvent, PublicExtra, PublicOffer } from '#contract/publicEvent.ts';
import { offerIn } from '#core/events/french.ts';
import { type Currency, readAmount } from '#core/money/amount.ts';
import { type Quote, quote } from '#core/offers/quote.ts';
import type { Wrong } from '#core/words/problems.ts';
import { language } from './language.ts';

/** What is chosen, as it is typed. */
export interface Choice {
  units: Record<string, number>;
  /** What is paid for each unit of an offer, where one pays what one can. */
  pays: Record<string, string>;
  /** How many of each extra, or of each of its kinds, by `keyOf`. */
  extras: Record<string, number>;
  /** A code that was entered, with what it does. */
  entered: EnteredCode | null;
}

export const keyOf = (extraId: string, optionId: string | null): string =>
  `${extraId} ${optionId ?? ''}`.trim();

/** The offers somebody can choose from: those of the page, and those that their code shows. */
export const offersFor = (event: PublicEvent, entered: EnteredCode | null): PublicOffer[] =>
  [...event.offers, ...(entered?.offers.filter((o) => !event.offers.some((e) => e.id === o.id)) ?? [])].map(
    (o) => offerIn(o, language()),
  );

/** An extra as a reader of a language is shown it. */
export const extraIn = (extra: PublicExtra): PublicExtra =>
  language() === 'fr'
    ? {
        ...offerIn(extra, 'fr'),
        options: extra.options.map((o) => ({ ...o, name: o.french.trim() || o.name })),
      }
    : extra;

/** What is asked for, in the order in which it is offered. */
export function wantedOf(event: PublicEvent, choice: Choice, currency: Currency) {
  const offers = offersFor(event, choice.entered);
  const pays = (id: string): number | null => {
    const typed = choice.pays[id]?.trim();
    return typed ? (readAmount(typed, currency) ?? -1) : null;
  };
  return {
    lines: offers.flatMap((offer) =>
      choice.units[offer.id]
        ? [
            {
              offerId: offer.id,
              units: choice.units[offer.id]!,
              price: offer.pricing === 'pay what you can' ? pays(offer.id) : null,
            },
          ]
        : [],
    ),
    extras: event.extras.flatMap((extra) =>
      (extra.options.length ? extra.options.map((o) => o.id) : [null]).flatMap((optionId) => {
        const units = choice.extras[keyOf(extra.id, optionId)] ?? 0;
        return units > 0 ? [{ extraId: extra.id, optionId, units }] : [];
      }),
    ),
    code: choice.entered?.code ?? '',
  };
}

/** What it comes to, by the same reckoning as when it is booked; or what is wrong with it. */
export function quoteFor(
  event: PublicEvent,
  choice: Choice,
  donation: number,
  currency: Currency,
): { quote: Quote } | { problems: Wrong[] } {
  const { entered } = choice;
  const unlimited = { quantity: null };
  return quote(
    {
      currency,
      // What is signed costs nothing.
      offers: offersFor(event, entered).map((o) => ({ ...o, ...unlimited, waiverId: null })),
      extras: event.extras.map(extraIn).map((e) => ({
        ...e,
        ...unlimited,
        options: e.options.map((o) => ({ ...o, ...unlimited })),
      })),
      // It was found good when it was entered; whether it still is, is asked when it is used.
      codes: entered
        ? [{ ...entered, fromLocal: null, untilLocal: null, most: null, mostPerPerson: null }]
        : [],
      taxes: event.taxes,
    },
    { ...wantedOf(event, choice, currency), donation },
    {
      nowLocal: event.nowLocal,
      member: event.you?.member ?? false,
      known: event.you !== null,
      has: new Map(event.you?.has.map((u) => [u.offerId, u.units])),
      uses: new Map(),
      guest: event.admission.guest,
      team: false,
    },
  );
}

/** What it comes to as it stands, without a code that is not good for it; with what is wrong with that code. */
export function reckon(
  event: PublicEvent,
  choice: Choice,
  donation: number,
  currency: Currency,
): { quote: Quote | null; code: Wrong | null } {
  const all = quoteFor(event, choice, donation, currency);
  if ('quote' in all) return { quote: all.quote, code: null };
  const code = all.problems.find((p) => p.path === 'code') ?? null;
  const rest = code ? quoteFor(event, { ...choice, entered: null }, donation, currency) : all;
  return { quote: 'quote' in rest ? rest.quote : null, code };
}
