import { shownTimes } from '#core/events/shown.ts';
import type { CalendarEntry } from '#core/exchange/calendar.ts';
import { sayPlace } from './saying.ts';
import type { EventRow } from './store.ts';

/**
 * An event as an entry of a calendar file; null without a date. Its identity stays, and its number rises with every change, so that
 * calendars that have it move it or cross it out.
 */
export function entryOf(
  event: Pick<
    EventRow,
    | 'id'
    | 'startsAt'
    | 'startsLocal'
    | 'endsLocal'
    | 'endsAt'
    | 'allDay'
    | 'showEnd'
    | 'zone'
    | 'version'
    | 'state'
    | 'venueName'
    | 'venueAddress'
  > & { online: object | null },
  of: { summary: string; url: string; description: string; language: string },
): CalendarEntry | null {
  if (!event.startsAt) return null;
  const { startsLocal, endsLocal, endsAt } = shownTimes(event);
  const { language, ...words } = of;
  return {
    uid: `${event.id}@acolyte`,
    startsAt: event.startsAt,
    endsAt,
    zone: event.zone,
    ...(event.allDay && startsLocal && { days: { first: startsLocal, last: endsLocal ?? startsLocal } }),
    ...words,
    location: sayPlace(event, language),
    sequence: event.version,
    cancelled: event.state === 'called off',
  };
}
