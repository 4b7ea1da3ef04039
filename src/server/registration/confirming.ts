import { passCode } from '#core/doors/passCode.ts';
import { mayBecome, type RegistrationState, standing } from '#core/registration/states.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import type { EventRow } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import { linkOrder } from './orderLinking.ts';
import { expectAttendance, type OrderRow, readOrder, readSeats, type SeatRow } from './store.ts';

/** Moves seats to another state, each with its history. Refuses a change the states do not allow. */
export async function setSeats(
  w: Work,
  seats: readonly SeatRow[],
  to: RegistrationState,
  reason: string,
): Promise<void> {
  for (const seat of seats)
    if (seat.state !== to && !mayBecome(seat.state, to))
      throw refused('seat-state', { state: seat.state, to });
  const ids = seats.filter((s) => s.state !== to).map((s) => s.id);
  if (!ids.length) return;
  // A code is made with the seat and kept: it is shown at the door only while the seat is confirmed.
  const codes = seats.map((s) => ({
    id: s.id,
    code: to === 'confirmed' && !s.passCode ? passCode(w.app.ids.bytes(12)) : null,
  }));
  await w.tx.query(
    `update registrations r set state = $2, pass_code = coalesce(r.pass_code, c.code),
       confirmed_at = case when $2 = 'confirmed' then $3::timestamptz else confirmed_at end,
       ended_at = case when $2 in ('withdrawn', 'declined', 'lapsed') then $3::timestamptz else null end
     from jsonb_to_recordset($4::jsonb) as c(id uuid, code text) where r.id = any($1) and c.id = r.id`,
    [ids, to, w.now, JSON.stringify(codes)],
  );
  await insert(
    w.tx,
    'registration_states',
    ids.map((registrationId) => ({ id: w.app.ids.id(), registrationId, state: to, at: w.now, reason })),
  );
}

/** What a caller has read already of an order that is confirmed. */
export interface KnownOrder {
  event?: EventRow;
  order?: OrderRow;
  seats?: readonly SeatRow[];
  /** Everybody in it is a contact already. */
  linked?: boolean;
}

/** Confirms what stands of an order: people become contacts, passes are made, attendance is expected. */
export async function confirmOrder(
  w: Work,
  orderId: string,
  reason: string,
  known: KnownOrder = {},
): Promise<void> {
  const { tx } = w;
  const seats = known.seats ?? (await readSeats(tx, orderId));
  await setSeats(
    w,
    seats.filter((s) => standing.includes(s.state)),
    'confirmed',
    reason,
  );
  const order = known.order ?? (await readOrder(tx, orderId));
  if (order.heldUntil || order.waitlistedAt || order.offeredUntil)
    await update(tx, 'orders', orderId, { heldUntil: null, waitlistedAt: null, offeredUntil: null });
  if (!known.linked) await linkOrder(w, order, { ...known, seats });
  await expectAttendance(tx, orderId);
  await record(w, 'order confirmed', { eventId: order.eventId, orderId });
}
