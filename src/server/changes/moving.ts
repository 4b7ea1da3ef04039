import { orderBody } from '#contract/registration.ts';
import { atOtherDate, extraThere } from '#core/registration/otherDates.ts';
import { standing } from '#core/registration/states.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import type { Queries } from '../db/database.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { invalid, refused } from '../http/problem.ts';
import { carryMoney, receive, refund } from '../money/paying.ts';
import { answersOf } from '../registration/answers.ts';
import { referred } from '../registration/dates.ts';
import { type Placed, placeOrder, takesRegistrations } from '../registration/ordering.ts';
import { type OrderRow, readOrder, readSeats, type SeatRow } from '../registration/store.ts';
import { withdrawSeats } from '../registration/withdrawing.ts';

/** The event that people may move to; null where it takes nobody any more. */
export async function otherDate(
  w: Pick<Work, 'tx' | 'now'>,
  eventId: string | null,
): Promise<EventRow | null> {
  if (!eventId) return null;
  const event = await readEvent(w.tx, eventId);
  return takesRegistrations(event, w.now) && !event.isTemplate ? event : null;
}

/**
 * Places at another date what somebody has at this one: the same people in the offers of the same name, at what they cost there. Refused
 * where it is full, or has no such offer.
 */
async function placeThere(
  w: Work,
  order: OrderRow,
  seats: readonly SeatRow[],
  target: EventRow,
  path: string,
): Promise<Placed> {
  const { tx } = w;
  // Money does not become another one by moving.
  if (target.paidIn !== order.currency)
    throw refused('other-currency', { title: target.publicTitle, currency: target.paidIn });
  const of = async (eventId: string) => {
    const { questions, ...sold } = await referred(tx, eventId);
    // A file belongs to one booking.
    return { ...sold, questions: questions.filter((q) => q.kind !== 'file') };
  };
  const [from, to] = [await of(order.eventId), await of(target.id)];
  const units = new Map<string, Set<number>>();
  for (const s of seats) units.set(s.offerId, (units.get(s.offerId) ?? new Set()).add(s.unitNumber));
  const answered = await answersOf(tx, order.id);
  const paid = await pricesOf(tx, order.id);
  // Where one pays what one can, that is what it was.
  const lines = [...units].map(([offerId, of]) => ({
    offerId,
    units: of.size,
    price: paid.get(offerId) ?? null,
  }));
  const here = {
    lines,
    attendees: [...seats]
      .sort(
        (a, b) =>
          lines.findIndex((l) => l.offerId === a.offerId) - lines.findIndex((l) => l.offerId === b.offerId),
      )
      .map((s) => ({
        given: s.givenName,
        family: s.familyName,
        birthDate: s.birthDate,
        answers: answered.get(s.id) ?? {},
      })),
    answers: answered.get(null) ?? {},
    // What is not to be had there is not bought there, and its money goes back.
    extras: (await extrasOf(tx, order.id)).filter((x) => extraThere(x, from, to)),
  };
  const there = atOtherDate(here, from, to, path);
  if ('wrong' in there) throw invalid([there.wrong]);
  const request = orderBody.parse({
    ...there.order,
    buyer: {
      given: order.buyerGiven,
      family: order.buyerFamily,
      email: order.buyerEmail ?? '',
      phone: order.buyerPhone ?? '',
    },
    language: order.language,
    waitlist: false,
  });
  return placeOrder(w, target.id, request, 'staff', { buyerContactId: order.buyerContactId });
}

/** What was agreed for a unit of each offer of an order, the last one. */
const pricesOf = async (tx: Queries, orderId: string): Promise<ReadonlyMap<string, number>> =>
  new Map(
    (
      await tx.query<{ offerId: string; unitPrice: number }>(
        "select offer_id, unit_price from order_lines where order_id = $1 and kind = 'seats' order by position",
        [orderId],
      )
    ).map((l) => [l.offerId, l.unitPrice]),
  );

/** The extras that were booked with an order, each of its kinds with how many. */
const extrasOf = (
  tx: Queries,
  orderId: string,
): Promise<{ extraId: string; optionId: string | null; units: number }[]> =>
  tx.query<{ extraId: string; optionId: string | null; units: number }>(
    `select extra_id, option_id, count(*)::int as units from order_lines where order_id = $1 and kind = 'extra'
     group by extra_id, option_id order by min(position)`,
    [orderId],
  );

const carry = (w: Work, from: OrderRow, toOrderId: string, amount: number, title: string) =>
  carryMoney(w, from, toOrderId, amount, { there: `moved to ${title}`, here: `moved from ${from.number}` });

/**
 * Moves an order of an event that was called off to another one; the money that was paid goes along as far as it is asked for there,
 * and the rest goes back.
 */
export async function moveOrder(w: Work, order: OrderRow, amount: number, toEventId: string): Promise<void> {
  const { tx } = w;
  const target = await otherDate(w, toEventId);
  if (!target) throw refused('registration-closed');
  const seats = (await readSeats(tx, order.id)).filter((s) => s.state === 'confirmed');
  const { orderId } = await placeThere(w, order, seats, target, 'become');
  const placed = await readOrder(tx, orderId);
  const asked = Math.min(amount, Math.max(0, placed.balance));
  await carry(w, order, orderId, asked, target.publicTitle);
  if (amount > asked) await refund(w, order, amount - asked, `moved to ${target.publicTitle}`);
}

/** What moving a booking to another date comes to. */
export interface MovedToDate {
  orderId: string;
  /** Of the personal link of the new booking. */
  token: string;
  seats: number;
  more: number;
  back: number;
  kept: number;
}

/**
 * Moves all that stands of a booking to another date: it is placed there, its money goes along as far as it is asked for, and the seats
 * here are given up. What is left of the money is owed back. Not once somebody of it has come, and not what is not confirmed.
 */
export async function moveToDate(
  w: Work,
  orderId: string,
  toEventId: string,
  by: 'registrant' | 'staff',
): Promise<MovedToDate> {
  const { tx } = w;
  const order = await readOrder(tx, orderId, true);
  const target = await otherDate(w, toEventId);
  if (!target || target.id === order.eventId) throw refused('registration-closed');
  const seats = (await readSeats(tx, orderId)).filter((s) => standing.includes(s.state));
  if (!seats.length) throw refused('seat-gone');
  if (seats.some((s) => s.state !== 'confirmed')) throw refused('seat-not-confirmed');
  const here = await readEvent(tx, order.eventId);
  if (by === 'registrant' && here.startsAt && here.startsAt <= w.now) throw refused('begun');
  const placed = await placeThere(w, order, seats, target, 'eventId');
  const { balance } = await withdrawSeats(
    w,
    orderId,
    seats.map((s) => s.id),
    `moved to ${target.publicTitle}`,
    'all',
    false,
  );
  const fresh = await readOrder(tx, placed.orderId);
  const carried = Math.min(Math.max(0, -balance), Math.max(0, fresh.balance));
  await carry(w, await readOrder(tx, orderId), placed.orderId, carried, target.publicTitle);
  // What was let off here is not asked for there.
  const letOff = Math.min(order.waived, fresh.balance - carried);
  if (letOff > 0)
    await receive(w, await readOrder(tx, placed.orderId), letOff, 'waived', `moved from ${order.number}`);
  await record(w, 'order moved', {
    eventId: order.eventId,
    orderId,
    toEventId: target.id,
    toOrderId: placed.orderId,
  });
  return {
    orderId: placed.orderId,
    token: placed.token,
    seats: seats.length,
    more: Math.max(0, fresh.balance - carried - Math.max(0, letOff)),
    back: Math.max(0, -balance - carried),
    kept: 0,
  };
}
