import { lives } from '#core/events/states.ts';
import { openAttempts } from '#core/money/attempts.ts';
import {
  accountOf,
  allocate,
  allocateRefund,
  lineAmount,
  type OrderLine,
  type Part,
  stillNow,
} from '#core/money/lines.ts';
import { fits, limitsOf } from '#core/registration/capacity.ts';
import { occupying, standing } from '#core/registration/states.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { sayProblem } from '#core/words/problems.ts';
import { type Actor, type App, inTransaction, systemActor, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { among } from '../db/among.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { readEvent, readOffers } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import { confirmOrder, setSeats } from '../registration/confirming.ts';
import { linkOrder } from '../registration/orderLinking.ts';
import {
  addLines,
  expectAttendance,
  type OrderRow,
  readOrder,
  readSeats,
  readTaken,
  type SeatRow,
} from '../registration/store.ts';
import { holdMinutes, letGo } from '../registration/waiting.ts';
import { type CardAnswer, charge, lookUp } from '../standins/cards.ts';
import { refreshOrder } from './account.ts';
import { readBooks } from './store.ts';

export type Method = 'card' | 'cash' | 'cheque' | 'transfer' | 'waived';

/** Minutes after which the processor is asked what became of a charge without an answer. */
const askMinutes = 3;

export interface PayOutcome {
  outcome: 'succeeded' | 'declined' | 'unknown';
  words: string;
}

const waitWords = sayProblem('payment-unknown');

/**
 * Pays what an order owes by card. The question to the processor is kept before it is asked and carries its own id as
 * key, so that neither a crash nor a second click can charge twice.
 */
export async function payByCard(app: App, actor: Actor, orderId: string, card: string): Promise<PayOutcome> {
  const attempt = await inTransaction(app, actor, async (w) => {
    const order = await readOrder(w.tx, orderId);
    const event = await readEvent(w.tx, order.eventId);
    if (!lives(event.state)) throw refused('event-not-running');
    const seats = await readSeats(w.tx, orderId);
    const open = await first<{ id: string; state: string }>(
      w.tx,
      `select id, state from payment_attempts where order_id = $1 and state in ${among(openAttempts)}`,
      [orderId],
    );
    if (open) throw refused('payment-unknown');
    if (!seats.some((s) => occupying.includes(s.state))) throw refused('nothing-held');
    const amount = seats.some((s) => s.state === 'confirmed') ? order.balance : stillNow(order);
    if (amount <= 0) throw refused('nothing-due');
    const id = app.ids.id();
    await insert(w.tx, 'payment_attempts', {
      id,
      orderId,
      amount,
      state: 'asked',
      askedAt: w.now,
      askAt: plusMinutes(w.now, askMinutes),
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
      askAt: null,
      processorRef: answer.ref,
      words: answer.words,
    });
    const order = await readOrder(w.tx, attempt.orderId);
    if (answer.outcome === 'declined') {
      // A little time to try another card.
      const held = (await readSeats(w.tx, order.id)).some((s) => s.state === 'held');
      if (held && (!order.heldUntil || order.heldUntil < plusMinutes(w.now, holdMinutes)))
        await update(w.tx, 'orders', order.id, { heldUntil: plusMinutes(w.now, holdMinutes) });
      return 'recorded';
    }
    // It was called off while somebody paid: what they held is let go, and all of it goes back.
    if ((await readEvent(w.tx, order.eventId)).state === 'called off')
      await letGo(w, order.id, ['held', 'offered', 'waitlisted'], 'the event was called off');
    const { balance } = await receive(w, order, attempt.amount, 'card', answer.ref, attempt.id);
    if (balance < 0) await returnUnseated(w, order.id, attempt.amount);
    return 'recorded';
  });
}

/** A charge that came too late for seats that are gone goes back at once, and the buyer is told. */
async function returnUnseated(w: Work, orderId: string, amount: number): Promise<void> {
  const order = await readOrder(w.tx, orderId);
  const live = (await readSeats(w.tx, orderId)).some((s) => standing.includes(s.state));
  if (live || order.balance >= 0) return;
  await refund(w, order, Math.min(amount, -order.balance), 'paid after the seats were let go');
  await record(w, 'late payment returned', { eventId: order.eventId, orderId });
}

/** Writes money that moved for an order, by what it was for, each with the lines it stands on. */
async function writeMovement(
  w: Work,
  order: OrderRow,
  parts: readonly Part[],
  lines: readonly OrderLine[],
  base: { contactId: string | null; attemptId: string | null; method: Method; reason: string },
): Promise<void> {
  const { tx, app, now } = w;
  const isGift = (part: Part) => lines.find((l) => l.id === part.lineId)?.kind === 'gift';
  for (const kind of ['seats', 'donation'] as const) {
    const of = parts.filter((p) => isGift(p) === (kind === 'donation'));
    const amount = of.reduce((sum, p) => sum + p.amount, 0);
    if (amount === 0) continue;
    const id = app.ids.id();
    await insert(tx, 'payments', {
      id,
      orderId: order.id,
      eventId: order.eventId,
      ...base,
      kind,
      currency: order.currency,
      amount,
      at: now,
    });
    await insert(
      tx,
      'allocations',
      of.map((p) => ({ id: app.ids.id(), paymentId: id, orderId: order.id, ...p })),
    );
    // A gift is one when it came in; what is let off is not given, and what goes back is taken off again.
    if (kind === 'donation' && base.method !== 'waived' && order.donationFund)
      await insert(tx, 'donations', {
        id: app.ids.id(),
        contactId: base.contactId,
        orderId: order.id,
        eventId: order.eventId,
        paymentId: id,
        fundId: order.donationFund,
        currency: order.currency,
        amount,
        anonymous: order.donationAnonymous,
        at: now,
      });
  }
}

/**
 * Keeps money received for an order, or lets some of what is due off: laid on its lines as core says. Confirms the order
 * when nothing is due any more; a part of it confirms nothing.
 */
export async function receive(
  w: Work,
  order: OrderRow,
  amount: number,
  method: Method,
  reason: string,
  attemptId: string | null = null,
): Promise<{ balance: number }> {
  const { tx } = w;
  // Two at once are laid one after the other.
  const now = await readOrder(tx, order.id, true);
  // Money for seats that were let go brings them back where they are still free.
  let seats = await readSeats(tx, order.id);
  if (!seats.some((s) => standing.includes(s.state)) && (await bringBack(w, now, seats, amount, reason)))
    seats = await readSeats(tx, order.id);
  // The buyer becomes a contact with the money, not only with the seat.
  const contactId = await linkOrder(w, now, { seats });
  if (seats.some((s) => s.state === 'confirmed')) await expectAttendance(tx, order.id);
  const { lines, allocations, confirmed } = await readBooks(tx, order.id);
  const waived = method === 'waived';
  const parts = allocate(lines, allocations, amount, waived);
  await writeMovement(w, now, parts, lines, { contactId, attemptId, method, reason });
  const laid = [...allocations, ...parts.map((part) => ({ ...part, waived }))];
  const account = accountOf(lines, laid, confirmed);
  const { balance } = account;
  const unconfirmed = seats.some((s) => standing.includes(s.state) && s.state !== 'confirmed');
  // Confirming reckons the order, too.
  if (stillNow({ ...account, dueNow: now.dueNow }) > 0 || !unconfirmed) await refreshOrder(w, order.id);
  else
    await confirmOrder(w, order.id, waived ? 'let off' : 'paid', {
      order: now,
      seats,
      linked: true,
    });
  const about = { eventId: order.eventId, orderId: order.id, amount };
  if (waived) await record(w, 'money let off', { ...about, reason });
  else await record(w, 'money received', { ...about, method });
  return { balance };
}

/** Money came after the seats had lapsed: they are held again when they still fit and it pays for them. */
async function bringBack(
  w: Work,
  order: OrderRow,
  seats: readonly SeatRow[],
  amount: number,
  reason: string,
): Promise<boolean> {
  const lapsed = seats.filter((s) => s.state === 'lapsed');
  if (!lapsed.length) return false;
  const event = await readEvent(w.tx, order.eventId, true);
  if (!lives(event.state)) return false;
  const offers = await readOffers(w.tx, order.eventId);
  const lines = order.lines.flatMap(({ offerId, units }) => {
    const offer = offers.find((o) => o.id === offerId);
    return offer ? [{ offer, units }] : [];
  });
  if (lines.length < order.lines.length) return false;
  if (!fits({ lines, seats: lapsed.length }, limitsOf(event), await readTaken(w.tx, order.eventId)))
    return false;
  const agreed = (await readBooks(w.tx, order.id)).lines.reduce(
    (sum, l) => sum + (l.kind === 'gift' || l.kind === 'kept' ? 0 : lineAmount(l)),
    0,
  );
  if (amount + order.received < (order.dueNow ?? agreed)) return false;
  await setSeats(w, lapsed, 'held', `paid late: ${reason}`);
  return true;
}

/** Pays money back; a refund is a row of its own. `gift` takes it from the gift first. */
export async function refund(
  w: Work,
  order: OrderRow,
  amount: number,
  reason: string,
  gift = false,
): Promise<{ balance: number }> {
  const { tx } = w;
  const before = await readOrder(tx, order.id, true);
  if (amount > before.received) throw refused('too-much');
  const { lines, allocations } = await readBooks(tx, order.id);
  const parts = allocateRefund(lines, allocations, amount, gift);
  await writeMovement(w, before, parts, lines, {
    contactId: before.buyerContactId,
    attemptId: null,
    method: await lastMethod(tx, order.id),
    reason,
  });
  const { balance } = await refreshOrder(w, order.id);
  await record(w, 'money returned', { eventId: order.eventId, orderId: order.id, amount, reason, gift });
  return { balance };
}

/**
 * Leaves money that is owed back with the organization as a gift: it stands on a line of its own from then on, and is a donation to
 * a fund, the one of the order where it has one.
 */
export async function leaveAsGift(
  w: Work,
  order: OrderRow,
  amount: number,
  fundId: string,
  reason: string,
): Promise<void> {
  const { tx } = w;
  const { lines, allocations } = await readBooks(tx, order.id);
  const fund = order.donationFund ?? fundId;
  const [id] = await addLines(w, order.id, [{ kind: 'gift', fundId: fund, unitPrice: amount }]);
  await update(tx, 'orders', order.id, { donationFund: fund, donation: order.donation + amount });
  const gift: OrderLine = { id: id!, kind: 'gift', unitPrice: amount, discount: 0, tax: 0, live: false };
  const parts = [...allocateRefund(lines, allocations, amount), { lineId: id!, amount }];
  await writeMovement(w, await readOrder(tx, order.id), parts, [...lines, gift], {
    contactId: order.buyerContactId,
    attemptId: null,
    method: await lastMethod(tx, order.id),
    reason,
  });
  await refreshOrder(w, order.id);
  await record(w, 'left as a gift', { eventId: order.eventId, orderId: order.id, amount });
}

/** How money came in last for an order: it goes back the same way. */
export async function lastMethod(tx: Queries, orderId: string): Promise<Method> {
  const last = await first<{ method: Method }>(
    tx,
    "select method from payments where order_id = $1 and amount > 0 and method <> 'waived' order by at desc, id desc limit 1",
    [orderId],
  );
  return last?.method ?? 'transfer';
}

/**
 * Asks the processor what became of a charge that has no answer: the process was killed before it came, or it never did.
 * A charge the processor never got is closed there under its key, so that it cannot be made any more, and counts as
 * declined.
 */
export async function askAgain(app: App, attemptId: string): Promise<void> {
  const answer = await lookUp(app, attemptId);
  if (answer) await recordAnswer(app, answer);
  else
    await app.db.query('update payment_attempts set ask_at = $2 where id = $1 and ask_at is not null', [
      attemptId,
      plusMinutes(app.clock.now(), askMinutes),
    ]);
}

/** At start nobody waits for an answer any more: every open charge is asked about at once. */
export async function askAboutAll(app: App): Promise<void> {
  await app.db.query(
    `update payment_attempts set ask_at = $1 where state in ${among(openAttempts)} and (ask_at is null or ask_at > $1)`,
    [app.clock.now()],
  );
}
