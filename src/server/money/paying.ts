import { lives } from '#core/events/states.ts';
import {
  type Allocation,
  accountOf,
  allocate,
  allocateRefund,
  lineAmount,
  type OrderLine,
  type Part,
  stillNow,
} from '#core/money/lines.ts';
import { type MoneyMethod, type Moved, waysBack } from '#core/money/waysBack.ts';
import { fits, limitsOf } from '#core/registration/capacity.ts';
import { standing } from '#core/registration/states.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
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
import { refreshOrder } from './account.ts';
import { moveDeposit, readDeposit } from './deposits.ts';
import { moveGift, readGift } from './gifts.ts';
import { askForRefund } from './refunds.ts';
import { readBooks, readPaymentsOf, readResting } from './store.ts';

export type Method = MoneyMethod | 'waived';

/** Writes money that moved for an order, by what it was for, each with the lines it stands on. */
async function writeMovement(
  w: Work,
  order: OrderRow,
  parts: readonly Part[],
  lines: readonly OrderLine[],
  base: {
    contactId: string | null;
    attemptId: string | null;
    chargeId: string | null;
    refundId: string | null;
    method: Method;
    reason: string;
  },
  moved = false,
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
      of.map((p) => ({ id: app.ids.id(), paymentId: id, orderId: order.id, moved, ...p })),
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
  { attemptId = null, chargeId = null }: { attemptId?: string | null; chargeId?: string | null } = {},
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
  await writeMovement(w, now, parts, lines, {
    contactId,
    attemptId,
    chargeId,
    refundId: null,
    method,
    reason,
  });
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

/** What came in and went back for an order, in the order it did. */
const readMoved = (tx: Queries, orderId: string): Promise<Moved[]> =>
  tx.query<Moved>(
    "select method, charge_id, amount from payments where order_id = $1 and method not in ('waived', 'contested') order by at, id",
    [orderId],
  );

/** The ways by which money of an order goes back; where more is asked for than came in, the rest goes by transfer. */
async function waysOf(tx: Queries, orderId: string, amount: number): Promise<Moved[]> {
  const ways = waysBack(await readMoved(tx, orderId), amount);
  const rest = amount - ways.reduce((sum, m) => sum + m.amount, 0);
  return rest > 0 ? [...ways, { method: 'transfer', chargeId: null, amount: rest }] : ways;
}

/** Takes money of an order off its lines, one way after the other; answers by which ways it goes. */
async function takeOff(
  w: Work,
  order: OrderRow,
  { amount, reason, gift = false, by }: { amount: number; reason: string; gift?: boolean; by?: Moved[] },
  refundOf: (way: Moved) => Promise<string | null> = async () => null,
): Promise<{ ways: Moved[]; balance: number }> {
  const { tx } = w;
  const before = await readOrder(tx, order.id, true);
  if (amount > before.received) throw refused('too-much');
  const { lines, allocations } = await readBooks(tx, order.id);
  const ways = by ?? (await waysOf(tx, order.id, amount));
  const laid: Allocation[] = [...allocations];
  for (const way of ways) {
    const parts = allocateRefund(lines, laid, way.amount, gift);
    laid.push(...parts.map((part) => ({ ...part, waived: false })));
    await writeMovement(w, before, parts, lines, {
      contactId: before.buyerContactId,
      attemptId: null,
      chargeId: way.chargeId,
      refundId: await refundOf(way),
      method: way.method,
      reason,
    });
  }
  const { balance } = await refreshOrder(w, order.id);
  return { ways, balance };
}

/**
 * Pays money back; a refund is a row of its own. It goes back the way it came, what came last first: to a card by asking the processor,
 * until it has answered. `gift` takes it from the gift first; `by` says another way, by hand.
 */
export async function refund(
  w: Work,
  order: OrderRow,
  amount: number,
  reason: string,
  { gift = false, by = null }: { gift?: boolean; by?: 'cash' | 'cheque' | 'transfer' | null } = {},
): Promise<{ balance: number }> {
  const { balance } = await takeOff(
    w,
    order,
    { amount, reason, gift, ...(by ? { by: [{ method: by, chargeId: null, amount }] } : {}) },
    (way) => askForRefund(w, way),
  );
  await record(w, 'money returned', { eventId: order.eventId, orderId: order.id, amount, reason, gift });
  return { balance };
}

/** Takes money over from one order to another: none moves, and it rests on the charges it came with. */
export async function carryMoney(
  w: Work,
  from: OrderRow,
  toOrderId: string,
  amount: number,
  words: { there: string; here: string },
): Promise<void> {
  if (amount <= 0) return;
  const { ways } = await takeOff(w, from, { amount, reason: words.there });
  await record(w, 'money returned', {
    eventId: from.eventId,
    orderId: from.id,
    amount,
    reason: words.there,
    gift: false,
  });
  for (const { method, chargeId, amount: part } of ways.reverse())
    await receive(w, await readOrder(w.tx, toOrderId), part, method, words.here, { chargeId });
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
  const laid: Allocation[] = [...allocations];
  for (const way of await waysOf(tx, order.id, amount)) {
    const parts = [...allocateRefund(lines, laid, way.amount), { lineId: id!, amount: way.amount }];
    laid.push(...parts.map((part) => ({ ...part, waived: false })));
    await writeMovement(w, await readOrder(tx, order.id), parts, [...lines, gift], {
      contactId: order.buyerContactId,
      attemptId: null,
      chargeId: way.chargeId,
      refundId: null,
      method: way.method,
      reason,
    });
  }
  await refreshOrder(w, order.id);
  await record(w, 'left as a gift', { eventId: order.eventId, orderId: order.id, amount });
}

/** A refund did not reach the card: what was taken off the order for it stands there again, and is owed back. */
export async function refundFailed(w: Work, refundId: string, words: string): Promise<void> {
  const { tx, app } = w;
  const refunded = await first<{ id: string; amount: number }>(
    tx,
    `update card_refunds set state = 'failed', ask_at = null, answered_at = $2, words = $3 where id = $1 and state <> 'failed' returning id, amount`,
    [refundId, w.now, words],
  );
  if (!refunded) return;
  const orders = new Map<string, string>();
  for (const payment of await readPaymentsOf(tx, refundId)) {
    const { parts, donation, id: gone, giftId, depositId, orderId, ...of } = payment;
    if (giftId) {
      const { amount, method, chargeId } = of;
      await moveGift(w, await readGift(tx, giftId, true), {
        amount: -amount,
        method,
        chargeId,
        refundId,
        reason: 'the refund did not go through',
      });
      await record(w, 'gift refund failed', { giftId, eventId: of.eventId, amount: refunded.amount, words });
      continue;
    }
    if (depositId) {
      const deposit = await readDeposit(tx, depositId, true);
      const { amount, method, chargeId } = of;
      await moveDeposit(w, deposit, {
        amount: -amount,
        method,
        chargeId,
        refundId,
        reason: 'the refund did not go through',
      });
      const { applicationId, contactId, eventId } = deposit;
      const told = { depositId, applicationId, contactId, eventId, amount: refunded.amount, words };
      await record(w, 'deposit refund failed', told);
      continue;
    }
    if (!orderId || !of.eventId) continue;
    const id = app.ids.id();
    await insert(tx, 'payments', {
      ...of,
      orderId,
      id,
      amount: -of.amount,
      attemptId: null,
      reason: 'the refund did not go through',
      at: w.now,
    });
    await insert(
      tx,
      'allocations',
      parts.map((part) => ({
        id: app.ids.id(),
        paymentId: id,
        orderId,
        lineId: part.lineId,
        amount: -part.amount,
        undoes: true,
      })),
    );
    if (donation)
      await insert(tx, 'donations', {
        id: app.ids.id(),
        contactId: of.contactId,
        orderId,
        eventId: of.eventId,
        paymentId: id,
        currency: of.currency,
        ...donation,
        amount: -donation.amount,
        at: w.now,
      });
    orders.set(orderId, of.eventId);
  }
  for (const [orderId, eventId] of orders) {
    await refreshOrder(w, orderId);
    await record(w, 'refund failed', { eventId, orderId, amount: refunded.amount, words });
  }
}

/**
 * The bank of whoever paid decided against us: the money is gone, and what it paid for is owed again. Answers what of it no order stands
 * for any more, because it had gone back before.
 */
export async function takenBack(w: Work, chargeId: string, amount: number): Promise<number> {
  let left = amount;
  for (const { orderId, giftId, depositId, stands } of await readResting(w.tx, chargeId)) {
    if (giftId) {
      const gift = await readGift(w.tx, giftId, true);
      const part = Math.min(left, stands, gift.received);
      if (part <= 0) continue;
      await moveGift(w, gift, {
        amount: -part,
        method: 'contested',
        chargeId,
        reason: 'the bank took the payment back',
      });
      await record(w, 'gift taken back', { giftId, eventId: gift.eventId, amount: part });
      left -= part;
      continue;
    }
    if (depositId) {
      const deposit = await readDeposit(w.tx, depositId, true);
      const part = Math.min(left, stands, deposit.received);
      if (part <= 0) continue;
      await moveDeposit(w, deposit, {
        amount: -part,
        method: 'contested',
        chargeId,
        reason: 'the bank took the payment back',
      });
      const { applicationId, contactId, eventId } = deposit;
      await record(w, 'deposit taken back', { depositId, applicationId, contactId, eventId, amount: part });
      left -= part;
      continue;
    }
    if (!orderId) continue;
    const order = await readOrder(w.tx, orderId, true);
    const part = Math.min(left, stands, order.received);
    if (part <= 0) continue;
    const { lines, allocations } = await readBooks(w.tx, orderId);
    await writeMovement(
      w,
      order,
      allocateRefund(lines, allocations, part),
      lines,
      {
        contactId: order.buyerContactId,
        attemptId: null,
        chargeId,
        refundId: null,
        method: 'contested',
        reason: 'the bank took the payment back',
      },
      true,
    );
    await refreshOrder(w, orderId);
    await record(w, 'payment taken back', { eventId: order.eventId, orderId, amount: part });
    left -= part;
  }
  return left;
}
