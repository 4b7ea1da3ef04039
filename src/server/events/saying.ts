import { sayRange, sayZone } from '#core/time/say.ts';

/** When an event is, in a language; empty without a date. */
export function sayWhen(
  event: { startsLocal: string | null; endsLocal: string | null; zone: string },
  language: string,
): string {
  return event.startsLocal
    ? `${sayRange(event.startsLocal, event.endsLocal, language)} (${sayZone(event.zone)})`
    : '';
}

export const sayPlace = (event: { venueName: string | null; venueAddress: string | null }): string =>
  [event.venueName, event.venueAddress].filter(Boolean).join(', ');
