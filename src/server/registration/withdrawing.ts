import { came as cameStates } from '#core/doors/attendance.ts';
import { standing } from '#core/registration/states.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { among } from '../db/among.ts';
import { first, update } from '../db/database.ts';
import { invalid, refused } from '../http/problem.ts';
import { setSeats } from './confirming.ts';
import { noLongerExpected, readOrder, readSeats } from './store.ts';

/** Gives seats up; whoever waits is offered them at once. Money stays for the treasurer to pay back. */
export async function withdrawSeats(
  w: Work,
  orderId: string,
  seatIds: readonly string[],
  reason: string,
): Promise<{ balance: number; offered: string[] }> {
  const order = await readOrder(w.tx, orderId);
  const seats = (await readSeats(w.tx, orderId)).filter((s) => seatIds.includes(s.id));
  if (seats.length !== new Set(seatIds).size) throw invalid([{ path: 'seats', code: 'seats-of-another' }]);
  const came = await first(
    w.tx,
    `select 1 as x from attendance where registration_id = any($1) and state in ${among(cameStates)}`,
    [seatIds],
  );
  if (came) throw refused('already-in');
  await setSeats(w, seats, 'withdrawn', reason);
  await noLongerExpected(w.tx, seatIds);
  const left = (await readSeats(w.tx, orderId)).filter((s) => standing.includes(s.state));
  if (!left.length)
    await update(w.tx, 'orders', orderId, {
      heldUntil: null,
      waitlistedAt: null,
      offeredUntil: null,
      askedAt: null,
    });
  const { offered } = await record(w, 'seats withdrawn', {
    eventId: order.eventId,
    orderId,
    seats: seatIds.length,
    reason,
  });
  const { balance } = await readOrder(w.tx, orderId);
  return { balance, offered };
}
