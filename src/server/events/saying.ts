import type { EventInShort } from '#contract/registration.ts';
import { titleFor } from '#core/events/french.ts';
import { shownTimes } from '#core/events/shown.ts';
import { sayRange, sayZone } from '#core/time/say.ts';
import { en } from '#core/words/pages.en.ts';
import { fr } from '#core/words/pages.fr.ts';
import type { EventRow } from './store.ts';

/** When an event is, in a language; empty without a date. */
export function sayWhen(
  event: Pick<EventRow, 'startsLocal' | 'endsLocal' | 'endsAt' | 'allDay' | 'showEnd' | 'zone'>,
  language: string,
): string {
  const { startsLocal, endsLocal } = shownTimes(event);
  return startsLocal ? `${sayRange(startsLocal, endsLocal, language)} (${sayZone(event.zone)})` : '';
}

/** Where an event is; empty where that is told later. */
export function sayPlace(
  event: { venueName: string | null; venueAddress: string | null; online: object | null },
  language: string,
): string {
  const words = language === 'fr' ? fr : en;
  const place = [event.venueName, event.venueAddress].filter(Boolean).join(', ');
  return place || (event.online ? words.onlineOnly : '');
}

/** An event as a booking, a seat or an invitation names it to whoever has it. */
export function inShort(event: EventRow, language: string): EventInShort {
  const { startsLocal, endsLocal } = shownTimes(event);
  return {
    // Who is invited finds it before it has an address.
    slug: event.slug ?? event.id,
    title: titleFor(event, language),
    startsLocal,
    endsLocal,
    zone: event.zone,
    place: sayPlace(event, language) || null,
    state: event.state,
  };
}
