import { booksOfGift, type GiftState, standsAt } from '#core/giving/gift.ts';
import { toPost } from '#core/money/posting.ts';
import { type MoneyMethod, type Moved, waysBack } from '#core/money/waysBack.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { notFound, refused } from '../http/problem.ts';
import { post } from './account.ts';
import { movedFor, postedFor } from './moved.ts';
import { askForRefund } from './refunds.ts';

/** A gift apart from an order, as far as its money goes. */
export interface GiftRow {
  id: string;
  number: number;
  eventId: string | null;
  pageId: string | null;
  pledgeId: string | null;
  contactId: string | null;
  fundId: string;
  initiativeId: string | null;
  kind: 'money' | 'in kind';
  amount: number;
  currency: string;
  anonymous: boolean;
  state: GiftState;
  received: number;
}

const columns =
  'id, number, event_id, page_id, pledge_id, contact_id, fund_id, initiative_id, kind, amount, currency, anonymous, state, received';

/** Reads a gift; locked where it is about to be changed. Throws when there is none. */
export async function readGift(tx: Queries, id: string, lock = false): Promise<GiftRow> {
  const gift = await first<GiftRow>(
    tx,
    `select ${columns} from gifts where id = $1${lock ? ' for update' : ''}`,
    [id],
  );
  if (!gift) throw notFound('Gift');
  return gift;
}

/** Works out what a gift stands at from what moved for it, keeps that with it, and posts what has changed by it. */
async function refreshGift(w: Work, giftId: string): Promise<{ received: number; state: GiftState }> {
  const gift = await readGift(w.tx, giftId, true);
  const moved = await movedFor(w.tx, 'gift_id', giftId);
  const stands = standsAt(moved);
  await update(w.tx, 'gifts', giftId, stands);
  const { eventId, currency } = gift;
  const entries = toPost(booksOfGift(moved, gift.fundId), await postedFor(w.tx, 'gift_id', giftId));
  await post(w, { giftId, eventId, currency }, entries);
  return stands;
}

/** How money moved for a gift. */
export interface GiftMovement {
  amount: number;
  method: MoneyMethod;
  reason: string;
  attemptId?: string | null;
  chargeId?: string | null;
  refundId?: string | null;
}

/** Writes money that moved for a gift, with the donation it is, and what follows for the books. */
export async function moveGift(w: Work, gift: GiftRow, movement: GiftMovement): Promise<GiftState> {
  const { tx, app, now } = w;
  const { attemptId = null, chargeId = null, refundId = null, ...of } = movement;
  const id = app.ids.id();
  const about = {
    giftId: gift.id,
    eventId: gift.eventId,
    contactId: gift.contactId,
    currency: gift.currency,
    at: now,
  };
  await insert(tx, 'payments', { id, ...about, ...of, attemptId, chargeId, refundId, kind: 'donation' });
  await insert(tx, 'donations', {
    id: app.ids.id(),
    ...about,
    paymentId: id,
    fundId: gift.fundId,
    initiativeId: gift.initiativeId,
    amount: of.amount,
    anonymous: gift.anonymous,
  });
  return (await refreshGift(w, gift.id)).state;
}

/** Keeps money that came in for a gift: from then on it is given. */
export async function receiveGift(w: Work, giftId: string, movement: GiftMovement): Promise<void> {
  const gift = await readGift(w.tx, giftId, true);
  const isFirst = gift.state === 'open' || gift.state === 'lapsed';
  if (isFirst) await update(w.tx, 'gifts', giftId, { givenAt: w.now });
  await moveGift(w, gift, movement);
  await record(w, 'gift received', {
    giftId,
    eventId: gift.eventId,
    amount: movement.amount,
    method: movement.method,
  });
}

/**
 * Pays a gift back, all or a part of it, the way it came or another one by hand. What was given in kind goes back as it is. It no longer
 * counts as given.
 */
export async function returnGift(
  w: Work,
  giftId: string,
  amount: number,
  reason: string,
  by: 'cash' | 'cheque' | 'transfer' | null,
): Promise<void> {
  const gift = await readGift(w.tx, giftId, true);
  if (amount > gift.received) throw refused('too-much');
  const ways: Moved[] = by
    ? [{ method: by, chargeId: null, amount }]
    : waysBack(await movedFor(w.tx, 'gift_id', giftId), amount);
  for (const way of ways)
    await moveGift(w, gift, {
      amount: -way.amount,
      method: way.method,
      chargeId: way.chargeId,
      refundId: await askForRefund(w, way),
      reason,
    });
  await record(w, 'gift returned', { giftId, eventId: gift.eventId, amount, reason });
}
