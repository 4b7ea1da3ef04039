import { accountOf, type OrderAccount } from '#core/money/lines.ts';
import { first, update } from '../db/database.ts';
import type { Work } from '../http/app.ts';
import { readAllocations, readLines } from './store.ts';

/** Works out what an order stands at from its lines and what was laid on them, and keeps it with the order. */
export async function refreshOrder(w: Pick<Work, 'tx'>, orderId: string): Promise<OrderAccount> {
  const confirmed = await first<{ x: number }>(
    w.tx,
    "select 1 as x from registrations where order_id = $1 and state = 'confirmed' limit 1",
    [orderId],
  );
  const account = accountOf(
    await readLines(w.tx, orderId),
    await readAllocations(w.tx, orderId),
    confirmed !== null,
  );
  const { due, received, waived, balance, state } = account;
  await update(w.tx, 'orders', orderId, { due, received, waived, balance, state });
  return account;
}
