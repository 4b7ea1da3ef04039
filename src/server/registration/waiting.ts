import { fullName } from '#core/contacts/names.ts';
import { lives } from '#core/events/states.ts';
import { linkMark } from '#core/messages/links.ts';
import { offersFor } from '#core/registration/waitlist.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { update } from '../db/database.ts';
import { announce } from '../events/announce.ts';
import { readEvent, readOffers } from '../events/store.ts';
import type { Work } from '../http/app.ts';
import { conflict } from '../http/problem.ts';
import { planDirect, sayPlace, sayWhen } from '../messages/direct.ts';
import { refreshOrder } from '../money/account.ts';
import { theOrganization } from '../staff/store.ts';
import { confirmOrder, setSeats } from './confirming.ts';
import { type OrderRow, readOrder, readSeats, readTaken, readWaiting } from './store.ts';

/** Minutes a seat is kept while somebody pays. */
export const holdMinutes = 15;

/** Offers whatever seats are free to the parties that wait, as the core decides. Answers their names. */
export async function offerFreed(w: Work, eventId: string): Promise<string[]> {
  const event = await readEvent(w.tx, eventId, true);
  if (!lives(event.state) || !event.startsAt) return [];
  const waiting = await readWaiting(w.tx, eventId, await readOffers(w.tx, eventId));
  if (!waiting.length) return [];
  const offers = offersFor(waiting, event, await readTaken(w.tx, eventId), w.now, event.startsAt);
  for (const { party, until, passedOver } of offers)
    await offerTo(
      w,
      party.orderId,
      until,
      passedOver.length
        ? `first that fits; passed over ${passedOver.map((p) => `${p.party.name} (${p.why})`).join(', ')}`
        : 'first in the queue',
    );
  return offers.map((o) => o.party.name);
}

/** Offers seats to one waiting party until a deadline. */
export async function offerTo(w: Work, orderId: string, until: string, reason: string): Promise<void> {
  const seats = (await readSeats(w.tx, orderId)).filter((s) => s.state === 'waitlisted');
  await setSeats(w, seats, 'offered', `seats offered: ${reason}`);
  await update(w.tx, 'orders', orderId, { offeredUntil: until });
  await tellBuyer(w, orderId, 'offered', `a seat came free: ${reason}`, until);
}

/** Lets a hold or an offer that nobody took go, and offers the seats on. */
export async function lapse(w: Work, orderId: string, reason: string): Promise<void> {
  const order = await readOrder(w.tx, orderId);
  const seats = (await readSeats(w.tx, orderId)).filter((s) => s.state === 'held' || s.state === 'offered');
  await setSeats(w, seats, 'lapsed', reason);
  await update(w.tx, 'orders', orderId, { heldUntil: null, waitlistedAt: null, offeredUntil: null });
  await refreshOrder(w, orderId);
  // Of an event that is called off, people are told that, and not that seats went on.
  const event = await readEvent(w.tx, order.eventId);
  if (order.offeredUntil && lives(event.state)) await tellBuyer(w, orderId, 'lapsed', reason);
  await offerFreed(w, order.eventId);
  announce(w, order.eventId);
}

/** An event is called off: seats that are held, offered or waited for are let go at once; confirmed ones stay on record. */
export async function letGoAll(w: Work, eventId: string): Promise<void> {
  const orders = await w.tx.query<{ id: string }>(
    `select o.id from orders o where o.event_id = $1 and exists (select 1 from registrations r where r.order_id = o.id
       and r.state in ('held', 'offered', 'waitlisted'))
     and not exists (select 1 from payment_attempts p where p.order_id = o.id and p.state in ('asked', 'unknown')) order by o.id`,
    [eventId],
  );
  for (const { id } of orders) {
    const seats = (await readSeats(w.tx, id)).filter((s) =>
      ['held', 'offered', 'waitlisted'].includes(s.state),
    );
    await setSeats(w, seats, 'lapsed', 'the event was called off');
    await update(w.tx, 'orders', id, { heldUntil: null, waitlistedAt: null, offeredUntil: null });
    await refreshOrder(w, id);
  }
}

/** Takes an offer: confirmed when nothing is due, else held while paying. */
export async function takeOffer(w: Work, orderId: string): Promise<'confirmed' | 'held'> {
  const order = await readOrder(w.tx, orderId);
  const seats = (await readSeats(w.tx, orderId)).filter((s) => s.state === 'offered');
  const event = await readEvent(w.tx, order.eventId);
  if (!lives(event.state)) throw conflict('event-state', `This event is ${event.state}.`);
  if (!seats.length || !order.offeredUntil || order.offeredUntil <= w.now)
    throw conflict('offer-gone', 'This offer is no longer open. The seats went to the next party.');
  if (order.balance <= 0) {
    await confirmOrder(w, orderId, 'took the offered seats');
    return 'confirmed';
  }
  await setSeats(w, seats, 'held', 'took the offered seats, paying');
  await update(w.tx, 'orders', orderId, {
    waitlistedAt: null,
    offeredUntil: null,
    heldUntil: plusMinutes(w.now, holdMinutes),
  });
  announce(w, order.eventId);
  return 'held';
}

/** Writes to the buyer of a party that waits: it joined, seats are offered, the offer lapsed. */
export async function tellBuyer(
  w: Work,
  orderId: string,
  kind: 'waitlisted' | 'offered' | 'lapsed' | 'returned',
  reason: string,
  until?: string,
): Promise<void> {
  const order: OrderRow = await readOrder(w.tx, orderId);
  const event = await readEvent(w.tx, order.eventId);
  const { name: organization } = await theOrganization(w.tx);
  await planDirect(w, {
    kind,
    key: `${kind}:${orderId}:${until ?? w.now}`,
    to: {
      name: fullName({ given: order.buyerGiven, family: order.buyerFamily }),
      email: order.buyerEmail,
      contactId: order.buyerContactId,
      language: order.language,
    },
    eventId: event.id,
    reason,
    until: until ? { at: until, zone: event.zone } : undefined,
    values: {
      name: order.buyerGiven,
      event: event.publicTitle,
      when: sayWhen(event, order.language),
      place: sayPlace(event),
      organization,
      manage_link: linkMark('manage', orderId),
    },
  });
}
