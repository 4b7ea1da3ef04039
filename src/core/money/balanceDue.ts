import type { Instant, Zone } from '#core/time/clock.ts';
import { momentFrom } from '#core/time/moment.ts';

/** How long whoever books after the day has to pay, in days. */
const graceDays = 2;

/** What of an event decides by when bookings are paid. */
export interface PaidBefore {
  startsAt: Instant | null;
  zone: Zone;
  /** Days before it begins, by the calendar where it is. */
  balanceDays: number;
}

/**
 * By when what is still owed for a booking is to be paid: so many days before the event, or two days after it was booked where that is
 * later; never after the event begins. Null without a date.
 */
export function balanceDue({ startsAt, zone, balanceDays }: PaidBefore, bookedAt: Instant): Instant | null {
  if (!startsAt) return null;
  const usual = momentFrom(startsAt, { days: -balanceDays, minutes: 0 }, zone);
  const afterBooking = momentFrom(bookedAt, { days: graceDays, minutes: 0 }, zone);
  const due = [usual, afterBooking].sort().at(-1)!;
  return due < startsAt ? due : startsAt;
}
