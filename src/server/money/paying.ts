import { occupying, standing } from '#core/registration/states.ts';
import { first, insert, update } from '../db/database.ts';
import { announce } from '../events/announce.ts';
import { readEvent, readOffers } from '../events/store.ts';
import { type Actor, type App, audit, inTransaction, systemActor, type Work } from '../http/app.ts';
import { conflict } from '../http/problem.ts';
import { confirmOrder, refreshOrder, setSeats } from '../registration/confirming.ts';
import { type OrderRow, readMovements, readOrder, readSeats, readTaken } from '../registration/store.ts';
import { type CardAnswer, charge } from '../standins/cards.ts';

export interface PayOutcome {
  outcome: 'succeeded' | 'declined' | 'unknown';
  words: string;
}

const waitWords =
  'The card processor has not answered. Your seats are kept; do not pay again. We tell you as soon as we know.';

/**
 * Pays what an order owes by card. The question to the processor is kept before it is asked and carries its own id as
 * key, so that neither a crash nor a second click can charge twice.
 */
export async function payByCard(app: App, actor: Actor, orderId: string, card: string): Promise<PayOutcome> {
  const attempt = await inTransaction(app, actor, async (w) => {
    const order = await readOrder(w.tx, orderId);
    const seats = await readSeats(w.tx, orderId);
    const open = await first<{ id: string; state: string }>(
      w.tx,
      "select id, state from payment_attempts where order_id = $1 and state in ('asked', 'unknown')",
      [orderId],
    );
    if (open) throw conflict('payment-unknown', waitWords);
    if (!seats.some((s) => occupying.includes(s.state)))
      throw conflict('nothing-held', 'The seats are no longer held. Please register again.');
    const paid = (await readMovements(w.tx, orderId)).reduce((sum, m) => sum + m.amount, 0);
    const amount = order.due - paid;
    if (amount <= 0) throw conflict('nothing-due', 'Nothing is due on this order.');
    const id = app.ids.id();
    await insert(w.tx, 'payment_attempts', {
      id,
      orderId,
      amount,
      state: 'asked',
      askedAt: w.now,
      words: '',
    });
    return { id, amount };
  });
  const answer = await charge(app, attempt.id, attempt.amount, card);
  if (!answer) {
    await inTransaction(app, actor, async (w) => {
      await w.tx.query("update payment_attempts set state = 'unknown' where id = $1 and state = 'asked'", [
        attempt.id,
      ]);
      // The hold waits for the answer instead of running out under somebody who may have paid.
      await update(w.tx, 'orders', orderId, { heldUntil: null });
    });
    return { outcome: 'unknown', words: waitWords };
  }
  await recordAnswer(app, answer);
  return { outcome: answer.outcome, words: answer.words };
}

/**
 * Takes in what the processor answers, now or later. A second answer to the same question changes nothing. Money that
 * comes after the seats were let go gets them back when they are free, else it stands as owed back.
 */
export async function recordAnswer(app: App, answer: CardAnswer): Promise<'recorded' | 'known already'> {
  return inTransaction(app, systemActor, async (w) => {
    const attempt = await first<{ id: string; orderId: string; amount: number; state: string }>(
      w.tx,
      'select id, order_id, amount, state from payment_attempts where id = $1 for update',
      [answer.key],
    );
    if (!attempt || attempt.state === 'succeeded' || attempt.state === 'declined') return 'known already';
    await update(w.tx, 'payment_attempts', attempt.id, {
      state: answer.outcome,
      answeredAt: w.now,
      processorRef: answer.ref,
      words: answer.words,
    });
    const order = await readOrder(w.tx, attempt.orderId);
    if (answer.outcome === 'declined') {
      // A little time to try another card.
      const held = (await readSeats(w.tx, order.id)).some((s) => s.state === 'held');
      if (held && !order.heldUntil)
        await update(w.tx, 'orders', order.id, {
          heldUntil: new Date(Date.parse(w.now) + 15 * 60_000).toISOString(),
        });
      return 'recorded';
    }
    await receive(w, order, attempt.amount, 'card', answer.ref, attempt.id);
    return 'recorded';
  });
}

/**
 * Keeps money received for an order: what the donation asks for goes to its fund, the rest to the seats. Confirms the
 * order when everything due is in.
 */
export async function receive(
  w: Work,
  order: OrderRow,
  amount: number,
  method: 'card' | 'cash' | 'transfer' | 'waived',
  reason: string,
  attemptId: string | null = null,
): Promise<{ balance: number }> {
  const { tx, app, now } = w;
  const before = await readMovements(tx, order.id);
  const given = before.filter((m) => m.kind === 'donation').reduce((sum, m) => sum + m.amount, 0);
  const paidSeats = before.filter((m) => m.kind === 'seats').reduce((sum, m) => sum + m.amount, 0);
  const seatsDue = Math.max(0, order.due - order.donation - paidSeats);
  // Seats first: a part payment is not a gift.
  const forSeats =
    Math.min(amount, seatsDue) + Math.max(0, amount - seatsDue - Math.max(0, order.donation - given));
  const forDonation = amount - forSeats;
  const contactId = (await readOrder(tx, order.id)).buyerContactId;
  const base = { orderId: order.id, eventId: order.eventId, contactId, attemptId, method, reason, at: now };
  if (forSeats > 0)
    await insert(tx, 'payments', { id: app.ids.id(), ...base, kind: 'seats', amount: forSeats });
  let donationPayment: string | null = null;
  if (forDonation > 0) {
    donationPayment = app.ids.id();
    await insert(tx, 'payments', { id: donationPayment, ...base, kind: 'donation', amount: forDonation });
  }
  const paid = paidSeats + given + amount;
  const seats = await readSeats(tx, order.id);
  if (paid >= order.due || method !== 'card') {
    const live = seats.filter((s) => standing.includes(s.state));
    if (live.length) await confirmOrder(w, order.id, 'paid');
    else await bringBack(w, order, reason);
  }
  // The buyer is linked by confirming; the money rows are tied to the person now.
  const linked = (await readOrder(tx, order.id)).buyerContactId;
  if (linked && !contactId)
    await tx.query('update payments set contact_id = $2 where order_id = $1 and contact_id is null', [
      order.id,
      linked,
    ]);
  if (donationPayment && order.donationFund)
    await insert(tx, 'donations', {
      id: app.ids.id(),
      contactId: linked,
      orderId: order.id,
      eventId: order.eventId,
      paymentId: donationPayment,
      fundId: order.donationFund,
      amount: forDonation,
      anonymous: order.donationAnonymous,
      at: now,
    });
  const account = await refreshOrder(w, order.id);
  await audit(w, 'received money', { kind: 'order', id: order.id }, { amount, method });
  announce(w, order.eventId);
  return account;
}

/** Money came after the seats had lapsed: they are confirmed when they still fit, else the treasurer pays it back. */
async function bringBack(w: Work, order: OrderRow, reason: string): Promise<void> {
  const lapsed = (await readSeats(w.tx, order.id)).filter((s) => s.state === 'lapsed');
  if (!lapsed.length) return;
  const event = await readEvent(w.tx, order.eventId, true);
  const offers = await readOffers(w.tx, order.eventId);
  const taken = await readTaken(w.tx, order.eventId);
  const room =
    (event.capacity === null || taken.seats + lapsed.length <= event.capacity) &&
    order.lines.every(({ offerId, units }) => {
      const offer = offers.find((o) => o.id === offerId);
      return (
        offer && (offer.quantity === null || (taken.unitsByOffer.get(offerId) ?? 0) + units <= offer.quantity)
      );
    });
  if (!room) return;
  await setSeats(w, lapsed, 'confirmed', `paid late: ${reason}`);
  await confirmOrder(w, order.id, 'paid late');
}

/** Pays money back; a refund is a row of its own. */
export async function refund(w: Work, order: OrderRow, amount: number, reason: string): Promise<void> {
  const received = (await readMovements(w.tx, order.id)).reduce((sum, m) => sum + m.amount, 0);
  if (amount > received) throw conflict('too-much', 'More would be paid back than was received.');
  const last = await first<{ method: string }>(
    w.tx,
    'select method from payments where order_id = $1 and amount > 0 order by at desc, id desc limit 1',
    [order.id],
  );
  await insert(w.tx, 'payments', {
    id: w.app.ids.id(),
    orderId: order.id,
    eventId: order.eventId,
    contactId: order.buyerContactId,
    kind: 'seats',
    method: last?.method ?? 'transfer',
    amount: -amount,
    reason,
    at: w.now,
  });
  await refreshOrder(w, order.id);
  await audit(w, 'refunded', { kind: 'order', id: order.id }, { amount, reason });
  announce(w, order.eventId);
}
