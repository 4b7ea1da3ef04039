import { booksOf } from '#core/money/books.ts';
import { accountOf, type OrderAccount } from '#core/money/lines.ts';
import { type Entry, kindOf, type PostingKind, toPost } from '#core/money/posting.ts';
import type { Work } from '../app/app.ts';
import { insert, update } from '../db/database.ts';
import { type KeptAccount, ordersWithLines, readBooks } from './store.ts';

/**
 * Works out what an order stands at from its lines and what was laid on them, keeps it with the order, and posts what has changed by it.
 * Every change of an order comes through here, so the books never stand otherwise than the orders.
 */
export async function refreshOrder(w: Work, orderId: string): Promise<OrderAccount> {
  const { lines, allocations, confirmed, kept, ...books } = await readBooks(w.tx, orderId);
  const account = accountOf(lines, allocations, confirmed);
  const { due, received, waived, balance, state } = account;
  const fresh: KeptAccount = { due, received, waived, balance, state };
  const changed = Object.entries(fresh).filter(([key, value]) => kept[key as keyof KeptAccount] !== value);
  await update(w.tx, 'orders', orderId, Object.fromEntries(changed));
  await post(w, { orderId, ...books }, toPost(booksOf(lines, allocations, confirmed), books.posted));
  return account;
}

/** Writes a posting with its entries; nothing where there are none. */
export async function post(
  { tx, app, now, actor }: Work,
  of: { orderId: string; eventId: string; currency: string },
  entries: readonly Entry[],
): Promise<void> {
  if (!entries.length) return;
  const id = app.ids.id();
  await insert(tx, 'postings', {
    id,
    at: now,
    kind: kindOf(entries),
    orderId: of.orderId,
    eventId: of.eventId,
    currency: of.currency,
    actor: actor.name,
  });
  await insert(
    tx,
    'entries',
    entries.map((e) => ({ postingId: id, ...e })),
  );
}

/** Posts what has changed for a gift; nothing where nothing has. */
export async function postGift(
  { tx, app, now, actor }: Work,
  gift: { id: string; eventId: string | null; currency: string },
  entries: readonly Entry[],
): Promise<void> {
  if (!entries.length) return;
  const id = app.ids.id();
  const { eventId, currency } = gift;
  await insert(tx, 'postings', {
    id,
    at: now,
    kind: kindOf(entries),
    giftId: gift.id,
    eventId,
    currency,
    actor: actor.name,
  });
  await insert(
    tx,
    'entries',
    entries.map((e) => ({ postingId: id, ...e })),
  );
}

/** Posts what a line of the bank is, on its day; nothing where nothing is. */
export async function postLine(
  { tx, app, actor }: Work,
  line: { id: string; at: string; currency: string },
  entries: readonly Entry[],
): Promise<void> {
  if (!entries.length) return;
  const id = app.ids.id();
  const { id: bankLineId, at, currency } = line;
  await insert(tx, 'postings', { id, at, kind: 'banked', bankLineId, currency, actor: actor.name });
  await insert(
    tx,
    'entries',
    entries.map((e) => ({ postingId: id, ...e })),
  );
}

/** Posts what an event cost, on the day it did. */
export async function postCost(
  { tx, app, actor }: Work,
  of: { id: string; eventId: string; at: string; currency: string },
  entries: readonly Entry[],
): Promise<void> {
  const id = app.ids.id();
  const { id: costId, eventId, at, currency } = of;
  await insert(tx, 'postings', { id, at, kind: 'cost', costId, eventId, currency, actor: actor.name });
  await insert(
    tx,
    'entries',
    entries.map((e) => ({ postingId: id, ...e })),
  );
}

/** Posts what moved on the account with the processor, on the day it did. */
export async function postMove(
  { tx, app, actor }: Work,
  move: { id: string; at: string; currency: string },
  eventId: string | null,
  kind: PostingKind,
  entries: readonly Entry[],
): Promise<void> {
  if (!entries.length) return;
  const id = app.ids.id();
  const { id: moveId, at, currency } = move;
  await insert(tx, 'postings', { id, at, kind, moveId, eventId, currency, actor: actor.name });
  await insert(
    tx,
    'entries',
    entries.map((e) => ({ postingId: id, ...e })),
  );
}

/** The same of every order of an event that money is asked for, or came in for. */
export async function refreshEvent(w: Work, eventId: string): Promise<void> {
  for (const { id } of await ordersWithLines(w.tx, eventId)) await refreshOrder(w, id);
}
