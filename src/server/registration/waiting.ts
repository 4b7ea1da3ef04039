import type { Consequences, PartyConcerned } from '#core/events/consequences.ts';
import { lives } from '#core/events/states.ts';
import { openAttempts } from '#core/money/attempts.ts';
import { stillNow } from '#core/money/lines.ts';
import { limitsOf } from '#core/registration/capacity.ts';
import type { RegistrationState } from '#core/registration/states.ts';
import { freedSeatsFor } from '#core/registration/waitlist.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { sayReason } from '#core/words/reasons.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { among } from '../db/among.ts';
import { update } from '../db/database.ts';
import { readEvent, readOffers } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import { confirmOrder, setSeats } from './confirming.ts';
import { noLongerExpected, type OrderRow, readOrder, readSeats, readTaken, readWaiting } from './store.ts';

/** Minutes a seat is kept while somebody pays. */
export const holdMinutes = 15;

/** Offers whatever seats are free to the parties that wait, as the core decides. Answers their names. */
export async function passOnFreed(w: Work, eventId: string): Promise<string[]> {
  const event = await readEvent(w.tx, eventId, true);
  if (!lives(event.state) || !event.startsAt) return [];
  const waiting = await readWaiting(w.tx, eventId, await readOffers(w.tx, eventId));
  if (!waiting.length) return [];
  const offers = freedSeatsFor(
    waiting,
    limitsOf(event),
    await readTaken(w.tx, eventId),
    w.now,
    event.startsAt,
    event.waitRule,
  );
  for (const { party, until, passedOver } of offers)
    await passOnTo(
      w,
      party.orderId,
      until,
      passedOver.length
        ? `first that fits; passed over ${passedOver.map((p) => `${p.party.name} (${sayReason(p.why)})`).join(', ')}`
        : 'first in the queue',
    );
  return offers.map((o) => o.party.name);
}

/** Offers seats to one waiting party until a deadline. */
export async function passOnTo(w: Work, orderId: string, until: string, reason: string): Promise<void> {
  const seats = (await readSeats(w.tx, orderId)).filter((s) => s.state === 'waitlisted');
  await setSeats(w, seats, 'offered', `seats offered: ${reason}`);
  await update(w.tx, 'orders', orderId, { offeredUntil: until });
  const { eventId } = await readOrder(w.tx, orderId);
  await record(w, 'seats offered', { eventId, orderId, until, reason });
}

/** Lets a hold or an offer that nobody took go. */
export async function lapse(w: Work, orderId: string, reason: string): Promise<void> {
  await letGo(w, orderId, ['held', 'offered'], reason);
}

/** Lets the seats of an order that are in one of the states go. */
export async function letGo(
  w: Work,
  orderId: string,
  states: readonly RegistrationState[],
  reason: string,
): Promise<void> {
  const order = await readOrder(w.tx, orderId);
  const seats = (await readSeats(w.tx, orderId)).filter((s) => states.includes(s.state));
  await setSeats(w, seats, 'lapsed', reason);
  await update(w.tx, 'orders', orderId, {
    heldUntil: null,
    waitlistedAt: null,
    offeredUntil: null,
    askedAt: null,
  });
  await record(w, 'seats lapsed', {
    eventId: order.eventId,
    orderId,
    reason,
    offered: order.offeredUntil !== null,
  });
}

/**
 * An event is called off: seats that are held, offered or waited for are let go at once; confirmed ones stay on record.
 * Answers which parties that concerns.
 */
export async function letGoAll(w: Work, eventId: string): Promise<PartyConcerned[]> {
  const orders = await w.tx.query<{ id: string; name: string; seats: number }>(
    `select o.id, trim(o.buyer_given || ' ' || o.buyer_family) as name, (select count(*)::int from registrations r where r.order_id = o.id
       and r.state in ('asked', 'held', 'offered', 'waitlisted')) as seats from orders o where o.event_id = $1 and exists (select 1 from registrations r where r.order_id = o.id
       and r.state in ('asked', 'held', 'offered', 'waitlisted'))
     and not exists (select 1 from payment_attempts p where p.order_id = o.id and p.state in ${among(openAttempts)}) order by o.id`,
    [eventId],
  );
  for (const { id } of orders)
    await letGo(w, id, ['asked', 'held', 'offered', 'waitlisted'], 'the event was called off');
  return orders.map(({ name, seats }) => ({ name, seats }));
}

/** Puts confirmed seats back on the waitlist, at its head: there is less room than was given away. Answers what followed. */
export async function backToWaitlist(w: Work, order: OrderRow): Promise<Consequences> {
  const seats = (await readSeats(w.tx, order.id)).filter((s) => s.state === 'confirmed');
  if (!seats.length) throw refused('nothing-held');
  await setSeats(w, seats, 'waitlisted', 'less room than was given away');
  await noLongerExpected(
    w.tx,
    seats.map((s) => s.id),
  );
  await update(w.tx, 'orders', order.id, { waitlistedAt: order.placedAt });
  return record(w, 'seats put back', { eventId: order.eventId, orderId: order.id, seats: seats.length });
}

/** Takes an offer: confirmed when nothing is due, else held while paying. */
export async function takeSeats(w: Work, orderId: string): Promise<'confirmed' | 'held'> {
  const order = await readOrder(w.tx, orderId);
  const seats = (await readSeats(w.tx, orderId)).filter((s) => s.state === 'offered');
  const event = await readEvent(w.tx, order.eventId);
  if (!lives(event.state)) throw refused('event-not-running');
  if (!seats.length || !order.offeredUntil || order.offeredUntil <= w.now) throw refused('offer-gone');
  await record(w, 'offer taken', { eventId: order.eventId, orderId });
  if (stillNow(order) <= 0) {
    await confirmOrder(w, orderId, 'took the offered seats');
    return 'confirmed';
  }
  await setSeats(w, seats, 'held', 'took the offered seats, paying');
  await update(w.tx, 'orders', orderId, {
    waitlistedAt: null,
    offeredUntil: null,
    heldUntil: plusMinutes(w.now, holdMinutes),
  });
  return 'held';
}
