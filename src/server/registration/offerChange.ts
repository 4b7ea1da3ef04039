import { came as cameStates } from '#core/doors/attendance.ts';
import { layOver } from '#core/money/lines.ts';
import type { Offer } from '#core/offers/offer.ts';
import { isFor, quote } from '#core/offers/quote.ts';
import { fits, limitsOf, type Taken } from '#core/registration/capacity.ts';
import { ageProblems, type Channel } from '#core/registration/checking.ts';
import { standing } from '#core/registration/states.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { asVisitor } from '../contacts/visitor.ts';
import { among } from '../db/among.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { invalid, refused } from '../http/problem.ts';
import { askingOf, shopOf } from './asking.ts';
import { addLines, type OrderRow, readOrder, readSeats, readTaken, type SeatRow } from './store.ts';
import { keepBack } from './withdrawing.ts';

/** What a change of offer comes to, all in minor units. */
export interface OfferChanged {
  seats: number;
  /** What is more to pay, what is owed back, and what the terms keep of that. */
  more: number;
  back: number;
  kept: number;
}

/** The units of an order that some of its seats belong to, each with all of its seats: who shares a table moves together. */
function unitsOf(seats: readonly SeatRow[], seatIds: readonly string[]): SeatRow[][] {
  const keyOf = (s: SeatRow) => `${s.offerId} ${s.unitNumber}`;
  const wanted = new Set(seats.filter((s) => seatIds.includes(s.id)).map(keyOf));
  return [...wanted].map((key) => seats.filter((s) => keyOf(s) === key && standing.includes(s.state)));
}

/**
 * Changes what some seats of an order were booked as. Each unit gives way to one of the other offer, at what that costs now for whoever
 * booked: what was paid goes over to it, what is more is to be paid, and what is less is owed back by the terms of the event. Only
 * confirmed seats whose people have not come, and only where the other offer has room, is for their age, and seats as many.
 */
export async function changeOffer(
  w: Work,
  orderId: string,
  seatIds: readonly string[],
  offerId: string,
  channel: Channel,
): Promise<OfferChanged> {
  const { tx } = w;
  // The event first, as everybody locks who counts its seats.
  const event = await readEvent(tx, (await readOrder(tx, orderId)).eventId, true);
  const order = await readOrder(tx, orderId, true);
  const seats = await readSeats(tx, orderId);
  if (seatIds.some((id) => !seats.some((s) => s.id === id)))
    throw invalid([{ path: 'seats', code: 'seats-of-another' }]);
  const shop = await shopOf(tx, event);
  const to = shop.offers.find((o) => o.id === offerId);
  if (!to) throw invalid([{ path: 'offerId', code: 'ticket-gone' }]);
  const units = unitsOf(seats, seatIds).filter((u) => u[0] && u[0].offerId !== offerId);
  const leaving = units.flat();
  if (!leaving.length) return { seats: 0, more: 0, back: 0, kept: 0 };
  await demandChangeable(tx, event, leaving, units, to, shop.offers, channel);

  const before = order.balance;
  const laid = await laidOn(tx, orderId, units);
  const priced = await pricesOf(w, event, order, shop, to, laid, channel);
  const position = await nextUnit(tx, orderId, offerId);
  const lineIds = await addLines(
    w,
    orderId,
    units.map((_, at) => ({
      kind: 'seats',
      offerId,
      unitNumber: position + at,
      unitPrice: priced[at]!.price,
      discount: priced[at]!.discount,
      tax: priced[at]!.tax,
      taxIncluded: priced[at]!.taxIncluded,
    })),
  );
  const left: number[] = [];
  for (const [at, unit] of units.entries()) {
    const old = laid[at]!;
    const asked = priced[at]!.price - priced[at]!.discount + priced[at]!.tax;
    const over = old.lineId ? layOver(old.lineId, { id: lineIds[at]!, asked }, old.laid) : [];
    await insert(
      tx,
      'allocations',
      over.map((part) => ({ id: w.app.ids.id(), orderId, moved: true, ...part })),
    );
    left.push(stillOwed(old, over));
    await tx.query('update registrations set offer_id = $2, unit_number = $3 where id = any($1)', [
      unit.map((s) => s.id),
      offerId,
      position + at,
    ]);
  }
  await update(tx, 'orders', orderId, { lines: await linesNow(tx, orderId) });
  const kept = await keepBack(w, order, left, channel === 'public' ? 'terms' : 'all');
  await record(w, 'offer changed', {
    eventId: event.id,
    orderId,
    seats: leaving.length,
    from: [...new Set(units.map((u) => shop.offers.find((o) => o.id === u[0]!.offerId)?.name ?? ''))].join(
      ', ',
    ),
    to: to.name,
    kept,
  });
  const { balance } = await readOrder(tx, orderId);
  const due = (b: number) => Math.max(0, b);
  return {
    seats: leaving.length,
    more: Math.max(0, due(balance) - due(before)),
    back: Math.max(0, due(-balance) - due(-before)),
    kept,
  };
}

/** Refuses a change that cannot be: who has come, what waits, another number of seats, no room, another age. */
async function demandChangeable(
  tx: Queries,
  event: EventRow,
  leaving: readonly SeatRow[],
  units: readonly SeatRow[][],
  to: Offer,
  offers: readonly Offer[],
  channel: Channel,
): Promise<void> {
  if (leaving.some((s) => s.state !== 'confirmed')) throw refused('seat-not-confirmed');
  const came = await first(
    tx,
    `select 1 as x from attendance where registration_id = any($1) and state in ${among(cameStates)}`,
    [leaving.map((s) => s.id)],
  );
  if (came) throw refused('ticket-used');
  if (units.some((u) => offers.find((o) => o.id === u[0]!.offerId)?.seatsPerUnit !== to.seatsPerUnit))
    throw invalid([
      { path: 'offerId', code: 'offer-other-size', params: { name: to.name, count: to.seatsPerUnit } },
    ]);
  const taken = without(await readTaken(tx, event.id), units, offers);
  const party = { lines: [{ offer: to, units: units.length }], seats: leaving.length };
  if (!fits(party, limitsOf(event), taken))
    throw invalid([{ path: 'offerId', code: 'offer-full', params: { name: to.name } }]);
  if (channel !== 'public' || !event.startsLocal) return;
  const wrong = leaving.flatMap((s) =>
    ageProblems(s.birthDate, to, event.startsLocal!.slice(0, 10), 'offerId'),
  );
  if (wrong[0]) throw invalid([wrong[0]]);
}

/** What is taken once some units have left. */
function without(taken: Taken, units: readonly SeatRow[][], offers: readonly Offer[]): Taken {
  const unitsByOffer = new Map(taken.unitsByOffer);
  let [seats, online] = [taken.seats, taken.online ?? 0];
  for (const unit of units) {
    const offer = offers.find((o) => o.id === unit[0]!.offerId)!;
    unitsByOffer.set(offer.id, (unitsByOffer.get(offer.id) ?? 0) - 1);
    if (offer.online) online -= unit.length;
    else seats -= unit.length;
  }
  return { ...taken, seats, online, unitsByOffer };
}

interface LaidOnUnit {
  lineId: string | null;
  unitPrice: number;
  discount: number;
  laid: { paymentId: string; amount: number; waived: boolean }[];
}

/** What came in for a unit and did not go over. What was let off is nobody's to have back. */
function stillOwed(old: LaidOnUnit, over: readonly { paymentId: string; amount: number }[]): number {
  return old.laid.reduce((sum, { paymentId, amount, waived }) => {
    if (waived) return sum;
    const gone = over.find((o) => o.paymentId === paymentId && o.amount > 0)?.amount ?? 0;
    return sum + amount - gone;
  }, 0);
}

/** The line of each unit, with what stands on it by now, payment by payment. */
async function laidOn(tx: Queries, orderId: string, units: readonly SeatRow[][]): Promise<LaidOnUnit[]> {
  const rows = await tx.query<LaidOnUnit & { offerId: string; unitNumber: number; lineId: string }>(
    `select l.id as line_id, l.offer_id, l.unit_number, l.unit_price, l.discount,
       coalesce((select jsonb_agg(jsonb_build_object('paymentId', x.payment_id, 'amount', x.amount, 'waived', x.waived) order by x.at, x.payment_id) from (
           select a.payment_id, p.at, p.method = 'waived' as waived, sum(a.amount)::float8 as amount
           from allocations a join payments p on p.id = a.payment_id where a.line_id = l.id group by a.payment_id, p.at, p.method having sum(a.amount) > 0) x), '[]') as laid
     from order_lines l where l.order_id = $1 and l.kind = 'seats'`,
    [orderId],
  );
  return units.map((u) => {
    const row = rows.find((r) => r.offerId === u[0]!.offerId && r.unitNumber === u[0]!.unitNumber);
    return row ?? { lineId: null, unitPrice: 0, discount: 0, laid: [] };
  });
}

/**
 * What each unit costs as the other offer: by today's prices for whoever booked, with the code they booked with as far as it is good for
 * it, whatever became of that since. An amount off stays the amount it was.
 */
async function pricesOf(
  w: Work,
  event: EventRow,
  order: OrderRow,
  shop: Awaited<ReturnType<typeof shopOf>>,
  to: Offer,
  laid: readonly LaidOnUnit[],
  channel: Channel,
) {
  const visitor = order.buyerContactId ? await asVisitor(w.tx, order.buyerContactId) : null;
  const used = shop.codes.find((c) => c.id === order.codeId);
  const off =
    used?.off && 'amount' in used.off ? { amount: laid.reduce((sum, l) => sum + l.discount, 0) } : used?.off;
  const code =
    used && isFor(used, to.id)
      ? {
          ...used,
          off: off ?? null,
          fromLocal: null,
          untilLocal: null,
          most: null,
          mostPerPerson: null,
        }
      : null;
  const asking = await askingOf(w, event, visitor, channel, false);
  const priced = quote(
    { ...shop, codes: code ? [code] : [] },
    {
      lines: [
        { offerId: to.id, units: laid.length, price: to.pricing === 'pay what you can' ? to.least : null },
      ],
      extras: [],
      code: code?.code ?? '',
      donation: 0,
    },
    asking,
  );
  if ('problems' in priced) throw invalid(priced.problems.map((p) => ({ ...p, path: 'offerId' })));
  return priced.quote.units;
}

const nextUnit = async (tx: Queries, orderId: string, offerId: string): Promise<number> =>
  (await first<{ next: number }>(
    tx,
    `select 1 + greatest((select coalesce(max(unit_number), 0) from registrations where order_id = $1 and offer_id = $2),
       (select coalesce(max(unit_number), 0) from order_lines where order_id = $1 and offer_id = $2))::int as next`,
    [orderId, offerId],
  ))!.next;

/** What an order is by now: its offers with their units. */
const linesNow = (tx: Queries, orderId: string): Promise<{ offerId: string; units: number }[]> =>
  tx.query<{ offerId: string; units: number }>(
    `select offer_id, count(distinct unit_number)::int as units from registrations
     where order_id = $1 and state in ${among(standing)} group by offer_id order by min(seat_number)`,
    [orderId],
  );
