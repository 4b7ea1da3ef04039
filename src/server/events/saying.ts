import { sayRange, sayZone } from '#core/time/say.ts';
import { en } from '#core/words/pages.en.ts';
import { fr } from '#core/words/pages.fr.ts';

/** When an event is, in a language; empty without a date. */
export function sayWhen(
  event: { startsLocal: string | null; endsLocal: string | null; zone: string },
  language: string,
): string {
  return event.startsLocal
    ? `${sayRange(event.startsLocal, event.endsLocal, language)} (${sayZone(event.zone)})`
    : '';
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
