import { booksOf } from '#core/money/books.ts';
import { accountOf, type OrderAccount } from '#core/money/lines.ts';
import { type Entry, kindOf, type PostingKind, toPost } from '#core/money/posting.ts';
import type { Work } from '../app/app.ts';
import { snake, update } from '../db/database.ts';
import { type KeptAccount, ordersWithLines, readBooks } from './store.ts';

/**
 * Works out what an order stands at from its lines and what was laid on them, keeps it with the order, and posts what has changed by it.
 * Every change of an order comes through here, so the books never stand otherwise than the orders.
 */
export async function refreshOrder(w: Work, orderId: string): Promise<OrderAccount> {
  const { lines, allocations, confirmed, kept, posted, ...of } = await readBooks(w.tx, orderId);
  const account = accountOf(lines, allocations, confirmed);
  const { due, received, waived, balance, state } = account;
  const fresh: KeptAccount = { due, received, waived, balance, state };
  const changed = Object.entries(fresh).filter(([key, value]) => kept[key as keyof KeptAccount] !== value);
  await update(w.tx, 'orders', orderId, Object.fromEntries(changed));
  await post(w, { orderId, ...of }, toPost(booksOf(lines, allocations, confirmed), posted));
  return account;
}

/** What a posting is about: one of these, and the event it counts for where there is one. */
type About =
  | { orderId: string }
  | { giftId: string }
  | { depositId: string }
  | { moveId: string }
  | { bankLineId: string }
  | { costId: string };

/** Writes a posting with its entries; nothing where there are none. It is of now, and what its entries say, unless that is said. */
export async function post(
  { tx, app, now, actor }: Work,
  of: About & { eventId: string | null; currency: string },
  entries: readonly Entry[],
  { at = now, kind = kindOf(entries) }: { at?: string; kind?: PostingKind } = {},
): Promise<void> {
  if (!entries.length) return;
  const posting = { id: app.ids.id(), at, kind, ...of, actor: actor.name };
  // With its entries in one go: nothing costs as much as asking the database once more.
  await tx.query(
    `with posted as (insert into postings select * from jsonb_populate_record(null::postings, $1::jsonb))
     insert into entries (posting_id, account, fund_id, amount) select $2::uuid, * from unnest($3::text[], $4::uuid[], $5::bigint[])`,
    [
      JSON.stringify(Object.fromEntries(Object.entries(posting).map(([key, value]) => [snake(key), value]))),
      posting.id,
      entries.map((e) => e.account),
      entries.map((e) => e.fundId),
      entries.map((e) => e.amount),
    ],
  );
}

/** The same of every order of an event that money is asked for, or came in for. */
export async function refreshEvent(w: Work, eventId: string): Promise<void> {
  for (const { id } of await ordersWithLines(w.tx, eventId)) await refreshOrder(w, id);
}
