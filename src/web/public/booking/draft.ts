import type { PublicEvent, PublicOffer } from '#contract/publicEvent.ts';
import type { PublicOrderBody } from '#contract/registration.ts';
import { type Currency, readAmount } from '#core/money/amount.ts';
import type { AnswerValue } from '#core/questions/answering.ts';
import { seatPeople } from '#core/registration/seating.ts';
import { language } from '../language.ts';
import { type Choice, offersFor, quoteFor, wantedOf } from '../quoting.ts';
import { ownZone } from '../saying.ts';

/** Somebody who comes, as far as they are filled in. */
export interface Guest {
  given: string;
  family: string;
  birthDate: string;
  /** Somebody of the household of whoever is signed in, who is on record. */
  contactId: string;
  answers: Record<string, AnswerValue>;
}

/** Everything filled in so far; kept on the device, so that a reload or a wrong turn loses nothing. */
export interface Draft extends Choice {
  buyer: { given: string; family: string; email: string; phone: string };
  /** Whether whoever books comes too; empty until they said so. */
  coming: '' | 'yes' | 'no';
  /** By offer and seat: what is typed of somebody stays with the ticket it was typed for. */
  guests: Record<string, Guest[]>;
  answers: Record<string, AnswerValue>;
  gift: string;
  fundId: string;
  anonymous: boolean;
  /** Other dates of the series, by their addresses. */
  also: string[];
}

export const nobody: Guest = { given: '', family: '', birthDate: '', contactId: '', answers: {} };

/** A guest with every field, as far as it is typed: a form leaves out what nobody touched. */
export const filled = (typed: Partial<Guest> | undefined): Guest => ({
  given: typed?.given ?? '',
  family: typed?.family ?? '',
  birthDate: typed?.birthDate ?? '',
  contactId: typed?.contactId ?? '',
  answers: typed?.answers ?? {},
});

/** One seat of what is chosen: its ticket, and where in the form it is filled in. */
export interface Seat {
  offer: PublicOffer;
  /** Which of its offer. */
  n: number;
  path: string;
  guest: Guest;
  /** It is that of whoever books. */
  own: boolean;
}

/** The lines of an order. */
export const linesOf = (event: PublicEvent, choice: Choice): { offer: PublicOffer; units: number }[] =>
  offersFor(event, choice.entered).flatMap((offer) =>
    choice.units[offer.id] ? [{ offer, units: choice.units[offer.id]! }] : [],
  );

/** Every seat in the order of the lines, with who is on it. Whoever books gets one that is for grown-ups, where there is. */
export function seatsOf(event: PublicEvent, draft: Draft): Seat[] {
  const seats = linesOf(event, draft).flatMap(({ offer, units }) =>
    Array.from({ length: units * offer.seatsPerUnit }, (_, n) => ({ offer, n })),
  );
  const [own] =
    draft.coming === 'yes'
      ? seatPeople(
          [{ birthDate: null }],
          seats.map((s) => s.offer),
          null,
        )
      : [null];
  return seats.map(({ offer, n }, at) => {
    const guest = filled(draft.guests[offer.id]?.[n]);
    return {
      offer,
      n,
      path: `guests.${offer.id}.${n}`,
      own: at === own,
      guest: at === own ? { ...guest, given: draft.buyer.given, family: draft.buyer.family } : guest,
    };
  });
}

/**
 * An amount as it was typed; minus one where it is none, which the contract refuses at its field. Nothing of what was typed
 * before counts where a gift is not asked for any more.
 */
export const giftOf = (event: PublicEvent, draft: Draft, currency: Currency): number =>
  event.funds.length > 0 && draft.gift.trim() ? (readAmount(draft.gift, currency) ?? -1) : 0;

/** What is sent: only what was answered of what is asked. */
export function bodyOf(event: PublicEvent, draft: Draft, currency: Currency): PublicOrderBody {
  const reckoned = quoteFor(event, draft, Math.max(0, giftOf(event, draft, currency)), currency);
  const asked = new Set(event.questions.map((q) => q.id));
  const answered = (answers: Guest['answers'] | undefined) =>
    Object.fromEntries(
      Object.entries(answers ?? {}).filter(([id, value]) => asked.has(id) && value !== undefined),
    );
  return {
    buyer: draft.buyer,
    ...wantedOf(event, draft, currency),
    // What was looked over is what is booked, or nothing.
    expects: 'quote' in reckoned ? reckoned.quote.total : null,
    attendees: seatsOf(event, draft).map(({ guest }) => ({
      given: guest.given,
      family: guest.family,
      birthDate: guest.birthDate || null,
      contactId: guest.contactId || null,
      answers: answered(guest.answers),
    })),
    answers: answered(draft.answers),
    donation: {
      amount: giftOf(event, draft, currency),
      fundId: (event.funds.find((f) => f.id === draft.fundId) ?? event.funds[0])?.id ?? null,
      anonymous: draft.anonymous,
    },
    language: language(),
    zone: ownZone(),
    waitlist: true,
    also: draft.also.filter((slug) => event.series?.dates.some((d) => d.slug === slug)),
  };
}
