import { accountOf, type OrderAccount } from '#core/money/lines.ts';
import type { Work } from '../app/app.ts';
import { update } from '../db/database.ts';
import { readBooks } from './store.ts';

/** Works out what an order stands at from its lines and what was laid on them, and keeps it with the order. */
export async function refreshOrder(w: Pick<Work, 'tx'>, orderId: string): Promise<OrderAccount> {
  const { lines, allocations, confirmed } = await readBooks(w.tx, orderId);
  const account = accountOf(lines, allocations, confirmed);
  const { due, received, waived, balance, state } = account;
  await update(w.tx, 'orders', orderId, { due, received, waived, balance, state });
  return account;
}
