import { accountOf, type OrderAccount } from '#core/money/lines.ts';
import type { Work } from '../app/app.ts';
import { update } from '../db/database.ts';
import { type KeptAccount, ordersWithLines, readBooks } from './store.ts';

/** Works out what an order stands at from its lines and what was laid on them, and keeps it with the order. */
export async function refreshOrder(w: Pick<Work, 'tx'>, orderId: string): Promise<OrderAccount> {
  const { lines, allocations, confirmed, kept } = await readBooks(w.tx, orderId);
  const account = accountOf(lines, allocations, confirmed);
  const { due, received, waived, balance, state } = account;
  const fresh: KeptAccount = { due, received, waived, balance, state };
  const changed = Object.entries(fresh).filter(([key, value]) => kept[key as keyof KeptAccount] !== value);
  await update(w.tx, 'orders', orderId, Object.fromEntries(changed));
  return account;
}

/** The same of every order of an event that money is asked for, or came in for. */
export async function refreshEvent(w: Pick<Work, 'tx'>, eventId: string): Promise<void> {
  for (const { id } of await ordersWithLines(w.tx, eventId)) await refreshOrder(w, id);
}
