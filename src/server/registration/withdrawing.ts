import { came as cameStates } from '#core/doors/attendance.ts';
import { keptOf, percentBack } from '#core/money/refundPolicy.ts';
import { standing } from '#core/registration/states.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { among } from '../db/among.ts';
import { first, type Queries, update } from '../db/database.ts';
import { readEvent } from '../events/store.ts';
import { invalid, refused } from '../http/problem.ts';
import { setSeats } from './confirming.ts';
import { addLines, noLongerExpected, type OrderRow, readOrder, readSeats } from './store.ts';

/** By what it is decided how much of what was paid goes back. */
export type Back = 'terms' | 'all' | 'nothing';

/** Gives seats up; whoever waits is offered them at once. What goes back is owed, for the treasurer to pay; the rest is kept. */
export async function withdrawSeats(
  w: Work,
  orderId: string,
  seatIds: readonly string[],
  reason: string,
  back: Back,
  /** Whether whoever booked is told; not where another message says it. */
  tell = true,
): Promise<{ balance: number; offered: string[]; kept: number }> {
  const order = await readOrder(w.tx, orderId);
  const seats = (await readSeats(w.tx, orderId)).filter((s) => seatIds.includes(s.id));
  if (seats.length !== new Set(seatIds).size) throw invalid([{ path: 'seats', code: 'seats-of-another' }]);
  const came = await first(
    w.tx,
    `select 1 as x from attendance where registration_id = any($1) and state in ${among(cameStates)}`,
    [seatIds],
  );
  if (came) throw refused('already-in');
  const stood = new Set((await paidFor(w.tx, orderId)).filter((l) => l.live).map((l) => l.id));
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
  const givenUp = (await paidFor(w.tx, orderId)).filter((l) => stood.has(l.id) && !l.live);
  const kept = await keepBack(
    w,
    order,
    givenUp.map((l) => l.received),
    back,
  );
  const { offered } = await record(w, 'seats withdrawn', {
    eventId: order.eventId,
    orderId,
    seats: seatIds.length,
    reason,
    kept,
    tell,
  });
  const { balance } = await readOrder(w.tx, orderId);
  return { balance, offered, kept };
}

/** What came in for each unit and extra of an order, with whether anybody stands behind it. */
const paidFor = (tx: Queries, orderId: string): Promise<{ id: string; live: boolean; received: number }[]> =>
  tx.query<{ id: string; live: boolean; received: number }>(
    `select l.id, exists (select 1 from registrations r where r.order_id = l.order_id and r.state in ${among(standing)}
         and (l.kind = 'extra' or (r.offer_id = l.offer_id and r.unit_number = l.unit_number))) as live,
       (select coalesce(sum(a.amount), 0)::float8 from allocations a join payments p on p.id = a.payment_id
         where a.line_id = l.id and p.method <> 'waived') as received
     from order_lines l where l.order_id = $1 and l.kind in ('seats', 'extra') order by l.position`,
    [orderId],
  );

/**
 * Writes down what is kept of what was paid for the units that are given up, by the terms of the event or as it is said. Answers how
 * much.
 */
export async function keepBack(
  w: Work,
  order: Pick<OrderRow, 'id' | 'eventId'>,
  givenUp: readonly number[],
  back: Back,
): Promise<number> {
  if (back === 'all' || !givenUp.length) return 0;
  const event = await readEvent(w.tx, order.eventId);
  const percent =
    back === 'nothing'
      ? 0
      : percentBack(event.refunds, dateOf(w.now, event.zone), event.startsLocal?.slice(0, 10) ?? null);
  const amount = keptOf(givenUp, percent).reduce((sum, k) => sum + k, 0);
  if (amount > 0) await addLines(w, order.id, [{ kind: 'kept', unitPrice: amount }]);
  return amount;
}
