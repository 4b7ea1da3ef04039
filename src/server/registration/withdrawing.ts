import { standing } from '#core/registration/states.ts';
import { first, update } from '../db/database.ts';
import { announce } from '../events/announce.ts';
import { audit, type Work } from '../http/app.ts';
import { conflict, invalid } from '../http/problem.ts';
import { replan } from '../messages/planning.ts';
import { refreshOrder } from '../money/account.ts';
import { setSeats } from './confirming.ts';
import { readOrder, readSeats } from './store.ts';
import { offerFreed } from './waiting.ts';

/** Gives seats up. Freed seats go to the waitlist at once. Money stays for the treasurer to pay back. */
export async function withdrawSeats(
  w: Work,
  orderId: string,
  seatIds: readonly string[],
  reason: string,
): Promise<{ balance: number; offered: string[] }> {
  const order = await readOrder(w.tx, orderId);
  const seats = (await readSeats(w.tx, orderId)).filter((s) => seatIds.includes(s.id));
  if (seats.length !== new Set(seatIds).size)
    throw invalid([{ path: 'seats', message: 'These seats do not all belong to this order.' }]);
  const came = await first(
    w.tx,
    "select 1 as x from attendance where registration_id = any($1) and state in ('arrived', 'left')",
    [seatIds],
  );
  if (came) throw conflict('already-in', 'Somebody who has arrived cannot withdraw.');
  await setSeats(w, seats, 'withdrawn', reason);
  await w.tx.query(
    "delete from attendance where registration_id = any($1) and state in ('expected', 'missed')",
    [seatIds],
  );
  const left = (await readSeats(w.tx, orderId)).filter((s) => standing.includes(s.state));
  if (!left.length)
    await update(w.tx, 'orders', orderId, { heldUntil: null, waitlistedAt: null, offeredUntil: null });
  const { balance } = await refreshOrder(w, orderId);
  await replan(w, order.eventId, orderId);
  await audit(w, 'withdrew seats', { kind: 'order', id: orderId }, { seats: seatIds.length, reason });
  const offered = await offerFreed(w, order.eventId);
  announce(w, order.eventId);
  return { balance, offered };
}
