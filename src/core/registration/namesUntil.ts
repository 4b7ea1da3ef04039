import { type Instant, plusMinutes, type Zone } from '#core/time/clock.ts';
import { momentFrom } from '#core/time/moment.ts';

/** How long whoever books late has for it, in days. */
const graceDays = 4;

/** What of an event decides until when the guests of a booking are named. */
export interface NamedBefore {
  startsAt: Instant | null;
  /** Days before it begins. */
  namesDays: number;
}

/** Until when seats of an event can be named and answers changed; null for one without a date. */
export const namesUntil = ({ startsAt, namesDays }: NamedBefore): Instant | null =>
  startsAt && plusMinutes(startsAt, -namesDays * 24 * 60);

/**
 * When the guests of a booking are to be named: by the last moment at which they can be, or some days after it was booked where that is
 * later; never after the event begins. Null without a date.
 */
export function namesWanted(event: NamedBefore & { zone: Zone }, bookedAt: Instant): Instant | null {
  const until = namesUntil(event);
  if (!until || !event.startsAt) return null;
  const afterBooking = momentFrom(bookedAt, { days: graceDays, minutes: 0 }, event.zone);
  const wanted = [until, afterBooking].sort().at(-1)!;
  return [wanted, event.startsAt].sort()[0]!;
}
