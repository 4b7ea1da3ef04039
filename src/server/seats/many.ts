import type { GivenUp, MovedSeats } from '#contract/seats.ts';
import { fullName } from '#core/contacts/names.ts';
import { came } from '#core/doors/attendance.ts';
import { standing } from '#core/registration/states.ts';
import { sayProblem } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { moveToDate } from '../changes/moving.ts';
import { among } from '../db/among.ts';
import { apart, type Queries } from '../db/database.ts';
import { answeredField, invalid, Problem } from '../http/problem.ts';
import { changeOffer } from '../registration/offerChange.ts';
import type { Back } from '../registration/withdrawing.ts';
import { withdrawSeats } from '../registration/withdrawing.ts';

interface ChosenSeat {
  id: string;
  orderId: string;
  contactId: string | null;
  name: string;
  stands: boolean;
  came: boolean;
}

/** The seats that were chosen, order by order in the order they were booked; one of another event is refused. */
export async function chosenOrders(
  tx: Queries,
  eventId: string,
  seatIds: readonly string[],
): Promise<Map<string, ChosenSeat[]>> {
  const rows = await tx.query<
    Omit<ChosenSeat, 'name'> & { given: string; family: string; buyer: string; eventId: string }
  >(
    `select r.id, r.order_id, r.contact_id, r.event_id, r.given_name as given, r.family_name as family, trim(o.buyer_given || ' ' || o.buyer_family) as buyer,
       r.state in ${among(standing)} as stands,
       exists (select 1 from attendance a where a.registration_id = r.id and a.state in ${among(came)}) as came
     from registrations r join orders o on o.id = r.order_id where r.id = any($1) order by o.placed_at, o.id, r.seat_number`,
    [seatIds],
  );
  if (rows.length !== new Set(seatIds).size || rows.some((r) => r.eventId !== eventId))
    throw invalid([{ path: 'seatIds', code: 'seats-of-another' }]);
  const orders = new Map<string, ChosenSeat[]>();
  for (const { given, family, buyer, eventId: _, ...seat } of rows) {
    const of = orders.get(seat.orderId) ?? [];
    of.push({ ...seat, name: fullName({ given, family }) || buyer });
    orders.set(seat.orderId, of);
  }
  return orders;
}

/** Gives several seats up, order by order. Who came keeps theirs, and what is gone already stays gone; both are said. */
export async function withdrawMany(
  w: Work,
  eventId: string,
  seatIds: readonly string[],
  reason: string,
  back: Back,
): Promise<GivenUp> {
  const all: GivenUp = { seats: 0, orders: 0, kept: 0, owed: 0, offered: [], left: [] };
  for (const [orderId, seats] of await chosenOrders(w.tx, eventId, seatIds)) {
    for (const s of seats)
      if (s.came) all.left.push({ name: s.name, why: sayProblem('already-in') });
      else if (!s.stands) all.left.push({ name: s.name, why: sayProblem('seat-gone') });
    const going = seats.filter((s) => s.stands && !s.came).map((s) => s.id);
    if (!going.length) continue;
    const { kept, balance, offered } = await withdrawSeats(w, orderId, going, reason, back);
    all.seats += going.length;
    all.orders += 1;
    all.kept += kept;
    all.owed += Math.max(0, -balance);
    all.offered.push(...offered);
  }
  return all;
}

/** Moves several seats to another offer, or their bookings to another date. Those for whom it cannot be stay as they are, each with why. */
export async function moveMany(
  w: Work,
  eventId: string,
  {
    seatIds,
    offerId,
    eventId: toEventId,
  }: { seatIds: readonly string[]; offerId: string | null; eventId: string | null },
): Promise<MovedSeats> {
  if (!offerId === !toEventId) throw invalid([{ path: 'offerId', code: 'move-where' }]);
  const all: MovedSeats = { seats: 0, more: 0, back: 0, kept: 0, left: [] };
  for (const [orderId, seats] of await chosenOrders(w.tx, eventId, seatIds)) {
    const standingSeats = seats.filter((s) => s.stands).map((s) => s.id);
    for (const s of seats.filter((x) => !x.stands))
      all.left.push({ name: s.name, why: sayProblem('seat-gone') });
    if (!standingSeats.length) continue;
    try {
      const moved = await apart(w.tx, () =>
        offerId
          ? changeOffer(w, orderId, standingSeats, offerId, 'staff')
          : moveToDate(w, orderId, toEventId!, 'staff'),
      );
      all.seats += moved.seats;
      all.more += moved.more;
      all.back += moved.back;
      all.kept += moved.kept;
    } catch (error) {
      // What cannot be done for one of them is no reason not to do it for the others.
      if (!(error instanceof Problem)) throw error;
      all.left.push(...seats.filter((s) => s.stands).map((s) => ({ name: s.name, why: whyOf(error) })));
    }
  }
  return all;
}

const whyOf = ({ fields, title }: Problem): string => (fields[0] ? answeredField(fields[0]).message : title);
