import { lacksOf } from '#core/events/readiness.ts';
import type { EventRow } from './store.ts';

/** Facts of an event for readiness: what a plan still lacks. */
export function lacksOfEvent(
  event: EventRow,
  offers: readonly { quantity: number | null; seatsPerUnit: number }[],
  today: string,
) {
  const open = offers.some((o) => o.quantity === null);
  return lacksOf(
    {
      ...event,
      slug: event.slug ?? '',
      placeTaken: event.venueId !== null && event.startsAt !== null && !event.venueShared && !event.booked,
      offers: offers.length,
      noReply: event.admission.noReply,
      seatsOnOffer: open ? null : offers.reduce((sum, o) => sum + o.quantity! * o.seatsPerUnit, 0),
    },
    today,
  );
}
