import { orderBody } from '#contract/registration.ts';
import { atOtherDate } from '#core/registration/otherDates.ts';
import type { Work } from '../app/app.ts';
import { type EventRow, readEvent, readOffers } from '../events/store.ts';
import { invalid, refused } from '../http/problem.ts';
import { lastMethod, receive, refund } from '../money/paying.ts';
import { placeOrder, takesRegistrations } from '../registration/ordering.ts';
import { type OrderRow, readOrder, readSeats } from '../registration/store.ts';

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
 * Moves an order of an event that was called off to another one: the same people in the offers of the same name, and the money that
 * was paid goes along as far as it is asked for there; the rest goes back. Refused where it is full, or has no such offer.
 */
export async function moveOrder(w: Work, order: OrderRow, amount: number, toEventId: string): Promise<void> {
  const { tx } = w;
  const target = await otherDate(w, toEventId);
  if (!target) throw refused('registration-closed');
  const seats = (await readSeats(tx, order.id)).filter((s) => s.state === 'confirmed');
  const units = new Map<string, Set<number>>();
  for (const s of seats) units.set(s.offerId, (units.get(s.offerId) ?? new Set()).add(s.unitNumber));
  const here = {
    lines: [...units].map(([offerId, of]) => ({ offerId, units: of.size })),
    attendees: seats
      .sort(
        (a, b) =>
          order.lines.findIndex((l) => l.offerId === a.offerId) -
          order.lines.findIndex((l) => l.offerId === b.offerId),
      )
      .map((s) => ({ given: s.givenName, family: s.familyName, birthDate: s.birthDate, answers: {} })),
    answers: {},
  };
  const there = atOtherDate(
    here,
    { offers: await readOffers(tx, order.eventId), questions: [] },
    { offers: await readOffers(tx, toEventId), questions: [] },
    'become',
  );
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
  const { orderId } = await placeOrder(w, toEventId, request, 'staff', {
    buyerContactId: order.buyerContactId,
  });
  const method = await lastMethod(tx, order.id);
  await refund(w, order, amount, `moved to ${target.publicTitle}`);
  const placed = await readOrder(tx, orderId);
  const asked = Math.min(amount, Math.max(0, placed.balance));
  if (asked > 0) await receive(w, placed, asked, method, `moved from ${order.number}`);
}
