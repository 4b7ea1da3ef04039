import { lives } from '#core/events/states.ts';
import { openAttempts } from '#core/money/attempts.ts';
import { stillNow } from '#core/money/lines.ts';
import { occupying, standing } from '#core/registration/states.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { sayProblem } from '#core/words/problems.ts';
import { type Actor, type App, inTransaction, systemActor, type Work } from '../app/app.ts';
import type { CardAnswer, CardOrToken } from '../app/cards.ts';
import { record } from '../app/record.ts';
import { among } from '../db/among.ts';
import { first, insert, type Queries, snake, update } from '../db/database.ts';
import { readEvent } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import { readOrder, readSeats } from '../registration/store.ts';
import { holdMinutes, letGo } from '../registration/waiting.ts';
import { receiveDeposit } from './deposits.ts';
import { receiveGift } from './gifts.ts';
import { receive, refund } from './paying.ts';
import { readFromNowOn } from './store.ts';

export interface PayOutcome {
  outcome: 'succeeded' | 'declined' | 'step' | 'unknown';
  words: string;
}

/** Minutes after which the processor is asked what became of a charge without an answer, and of one that waits for the bank's step. */
const askMinutes = 3;
const stepMinutes = 15;

/** What is paid: a booking, a gift apart from one, or the deposit of a volunteer. */
export type Payable = { orderId: string } | { giftId: string } | { depositId: string };

const openAttempt = (tx: Queries, of: Payable) => {
  const [[what, id]] = Object.entries(of) as [[string, string]];
  return first<{ id: string; state: string }>(
    tx,
    `select id, state from payment_attempts where ${snake(what)} = $1 and state in ${among(openAttempts)}`,
    [id],
  );
};

/** Closes a charge that waits for the bank's step, where there is one: it is declined. */
export async function closeStep(app: App, of: Payable): Promise<void> {
  const waiting = await openAttempt(app.db, of);
  if (waiting?.state === 'step') await askAgain(app, waiting.id);
}

/**
 * Charges a card for something. The question to the processor is kept before it is asked and carries its own id as key, so that neither a
 * crash nor a second click can charge twice. `due` says what is due, or throws why nothing can be paid.
 */
export async function chargeFor(
  app: App,
  actor: Actor,
  of: Payable,
  by: CardOrToken,
  due: (w: Work) => Promise<{ amount: number; currency: string }>,
): Promise<PayOutcome> {
  // Another card is tried instead of going on with the bank's step: that charge is closed first.
  await closeStep(app, of);
  const asked = await inTransaction(app, actor, async (w) => {
    const { amount, currency } = await due(w);
    if (await openAttempt(w.tx, of)) throw refused('payment-unknown');
    if (amount <= 0) throw refused('nothing-due');
    const id = app.ids.id();
    await insert(w.tx, 'payment_attempts', {
      id,
      ...of,
      amount,
      state: 'asked',
      askedAt: w.now,
      askAt: plusMinutes(w.now, askMinutes),
      words: '',
    });
    await readFromNowOn(w.tx, plusMinutes(w.now, 24 * 60));
    return { key: id, amount, currency };
  });
  return takeIn(app, actor, asked.key, await app.cards.charge({ ...asked, ...by }));
}

/** Pays what an order owes by card. */
export const payByCard = (app: App, actor: Actor, orderId: string, card: string): Promise<PayOutcome> =>
  chargeFor(app, actor, { orderId }, { card }, async (w) => {
    const order = await readOrder(w.tx, orderId);
    const event = await readEvent(w.tx, order.eventId);
    if (!lives(event.state)) throw refused('event-not-running');
    const seats = await readSeats(w.tx, orderId);
    if (await openAttempt(w.tx, { orderId })) throw refused('payment-unknown');
    if (!seats.some((s) => occupying.includes(s.state))) throw refused('nothing-held');
    const amount = seats.some((s) => s.state === 'confirmed') ? order.balance : stillNow(order);
    return { amount, currency: order.currency };
  });

/** Hands on what the bank wants from whoever pays. A wrong code is asked for again; after some it is declined. */
export async function confirmPayment(app: App, actor: Actor, of: Payable, code: string): Promise<PayOutcome> {
  const open = await openAttempt(app.db, of);
  if (open?.state !== 'step') throw refused(open ? 'payment-unknown' : 'nothing-to-confirm');
  return takeIn(app, actor, open.id, await app.cards.confirm(open.id, code));
}

async function takeIn(app: App, actor: Actor, key: string, answer: CardAnswer | null): Promise<PayOutcome> {
  if (answer) {
    await recordAnswer(app, answer);
    return { outcome: answer.outcome, words: answer.words };
  }
  await inTransaction(app, actor, async (w) => {
    await w.tx.query(
      "update payment_attempts set state = 'unknown', ask_at = $2 where id = $1 and state in ('asked', 'step')",
      [key, plusMinutes(w.now, askMinutes)],
    );
  });
  return { outcome: 'unknown', words: sayProblem('payment-unknown') };
}

/** Takes in what the processor answers, now or later. A second answer to the same question changes nothing. */
export const recordAnswer = (app: App, answer: CardAnswer): Promise<'recorded' | 'known already'> =>
  inTransaction(app, systemActor, (w) => answered(w, answer));

/**
 * The same, in a transaction. Money that comes after the seats were let go gets them back when they are free, else it stands as owed
 * back. That it was declined is believed until money moves after all.
 */
export async function answered(w: Work, answer: CardAnswer): Promise<'recorded' | 'known already'> {
  const attempt = await first<{
    id: string;
    orderId: string | null;
    giftId: string | null;
    depositId: string | null;
    amount: number;
    state: string;
  }>(
    w.tx,
    'select id, order_id, gift_id, deposit_id, amount, state from payment_attempts where id = $1 for update',
    [answer.key],
  );
  if (!attempt || attempt.state === 'succeeded') return 'known already';
  if (attempt.state === 'declined' && answer.outcome !== 'succeeded') return 'known already';
  const step = answer.outcome === 'step';
  await update(w.tx, 'payment_attempts', attempt.id, {
    state: answer.outcome,
    answeredAt: step ? null : w.now,
    askAt: step ? plusMinutes(w.now, stepMinutes) : null,
    processorRef: answer.ref,
    words: answer.words,
  });
  if (step) return 'recorded';
  const { id, amount, giftId, depositId } = attempt;
  const movement = { attemptId: id, chargeId: id };
  if (giftId) {
    if (answer.outcome === 'declined') await record(w, 'gift declined', { giftId, words: answer.words });
    else await receiveGift(w, giftId, { amount, method: 'card', reason: answer.ref, ...movement });
    return 'recorded';
  }
  if (depositId) {
    if (answer.outcome === 'succeeded')
      await receiveDeposit(w, depositId, { amount, method: 'card', reason: answer.ref, ...movement });
    return 'recorded';
  }
  const order = await readOrder(w.tx, attempt.orderId!);
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
  const { balance } = await receive(w, order, amount, 'card', answer.ref, movement);
  if (balance < 0) await returnUnseated(w, order.id, amount);
  return 'recorded';
}

/** A charge that came too late for seats that are gone goes back at once, and the buyer is told. */
async function returnUnseated(w: Work, orderId: string, amount: number): Promise<void> {
  const order = await readOrder(w.tx, orderId);
  const live = (await readSeats(w.tx, orderId)).some((s) => standing.includes(s.state));
  if (live || order.balance >= 0) return;
  await refund(w, order, Math.min(amount, -order.balance), 'paid after the seats were let go');
  await record(w, 'late payment returned', { eventId: order.eventId, orderId });
}

/**
 * Asks the processor what became of a charge that has no answer: the process was killed before it came, or it never did.
 * A charge the processor never got, or that still waits for the bank's step, is closed there under its key, so that it cannot be made
 * any more, and counts as declined.
 */
export async function askAgain(app: App, attemptId: string): Promise<void> {
  const answer = await app.cards.lookUp(attemptId);
  if (answer) await recordAnswer(app, answer);
  else
    await app.db.query('update payment_attempts set ask_at = $2 where id = $1 and ask_at is not null', [
      attemptId,
      plusMinutes(app.clock.now(), askMinutes),
    ]);
}

/** At start nobody waits for an answer any more: every open charge is asked about at once. One that waits for the bank's step goes on. */
export async function askAboutAll(app: App): Promise<void> {
  await app.db.query(
    `update payment_attempts set ask_at = $1 where state in ${among(['asked', 'unknown'])} and (ask_at is null or ask_at > $1)`,
    [app.clock.now()],
  );
}
