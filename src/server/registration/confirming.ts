import { passCode } from '#core/doors/passCode.ts';
import { mayBecome, type RegistrationState, standing } from '#core/registration/states.ts';
import { insert, update } from '../db/database.ts';
import type { EventRow } from '../events/store.ts';
import { record } from '../facts/record.ts';
import type { Work } from '../http/app.ts';
import { conflict } from '../http/problem.ts';
import { linkOrder } from './orderLinking.ts';
import { expectAttendance, givePassCodes, readOrder, readSeats, type SeatRow } from './store.ts';

/** Moves seats to another state, each with its history. Refuses a change the states do not allow. */
export async function setSeats(
  w: Work,
  seats: readonly SeatRow[],
  to: RegistrationState,
  reason: string,
): Promise<void> {
  for (const seat of seats)
    if (seat.state !== to && !mayBecome(seat.state, to))
      throw conflict('seat-state', `A ${seat.state} seat cannot become ${to}.`);
  const ids = seats.filter((s) => s.state !== to).map((s) => s.id);
  if (!ids.length) return;
  await w.tx.query(
    `update registrations set state = $2,
       confirmed_at = case when $2 = 'confirmed' then $3::timestamptz else confirmed_at end,
       ended_at = case when $2 in ('withdrawn', 'declined', 'lapsed') then $3::timestamptz else null end where id = any($1)`,
    [ids, to, w.now],
  );
  await insert(
    w.tx,
    'registration_states',
    ids.map((registrationId) => ({ id: w.app.ids.id(), registrationId, state: to, at: w.now, reason })),
  );
}

/** Confirms what stands of an order: people become contacts, passes are made, attendance is expected. */
export async function confirmOrder(
  w: Work,
  orderId: string,
  reason: string,
  event?: EventRow,
): Promise<void> {
  const { tx, app } = w;
  const all = await readSeats(tx, orderId);
  const seats = all.filter((s) => standing.includes(s.state));
  await setSeats(w, seats, 'confirmed', reason);
  const order = await readOrder(tx, orderId);
  if (order.heldUntil || order.waitlistedAt || order.offeredUntil)
    await update(tx, 'orders', orderId, { heldUntil: null, waitlistedAt: null, offeredUntil: null });
  await linkOrder(w, order, { seats: all, ...(event ? { event } : {}) });
  await givePassCodes(
    tx,
    seats.filter((s) => !s.passCode).map((s) => ({ id: s.id, passCode: passCode(app.ids.bytes(12)) })),
  );
  await expectAttendance(tx, orderId);
  await record(w, 'order confirmed', { eventId: order.eventId, orderId });
}
