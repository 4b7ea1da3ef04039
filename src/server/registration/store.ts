import type { Offer } from '#contract/plan.ts';
import { holdsOn, type Span } from '#core/contacts/membership.ts';
import type { QuietReason } from '#core/contacts/quiet.ts';
import type { Taken } from '#core/registration/capacity.ts';
import type { RegistrationState } from '#core/registration/states.ts';
import { occupying } from '#core/registration/states.ts';
import type { WaitingParty } from '#core/registration/waitlist.ts';
import type { Reason } from '#core/words/reasons.ts';
import type { Work } from '../app/app.ts';
import { whyQuiet } from '../contacts/quiet.ts';
import { among } from '../db/among.ts';
import { byOwner, first, insert, type Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';

/** Offers of the events $1 whose units have several seats, or once had. */
const inUnits = 'select id from offers where event_id = any($1) and widest_unit > 1';

/** Seats and units that are taken now at each of some events: held, offered and confirmed ones. */
export async function readTakenOf(
  tx: Queries,
  eventIds: readonly string[],
): Promise<ReadonlyMap<string, Taken>> {
  // Of an extra, and of its kinds, how many were sold; what is sold is held, offered or confirmed as the seats are.
  const all = await tx.query<{
    eventId: string;
    id: string;
    extra: boolean;
    seats: number;
    units: number;
    online: boolean;
  }>(
    // A unit is taken as long as one of its seats is. Where units never had more than one they need not be told apart, and the index
    // knows how many there are.
    `select u.event_id, u.offer_id as id, false as extra, o.online, sum(u.seats)::int as seats, sum(u.units)::int as units
       from (select event_id, offer_id, count(*) as seats, count(*) as units from registrations
             where event_id = any($1) and state in ${among(occupying)} and offer_id not in (${inUnits}) group by 1, 2
           union all
           select event_id, offer_id, count(*), 1 from registrations
             where event_id = any($1) and state in ${among(occupying)} and offer_id in (${inUnits})
             group by event_id, offer_id, order_id, unit_number) u
         join offers o on o.id = u.offer_id group by u.event_id, u.offer_id, o.online
     union all
     select o.event_id, x.id, true, false, 0, count(*)::int from order_lines l join orders o on o.id = l.order_id,
         unnest(array[l.extra_id, l.option_id]) as x(id)
       where l.kind = 'extra' and x.id is not null and o.event_id = any($1)
         and exists (select 1 from registrations r where r.order_id = o.id and r.state in ${among(occupying)}) group by o.event_id, x.id`,
    [eventIds],
  );
  const rows = all.filter((row) => !row.extra);
  const extras = all.filter((row) => row.extra);
  const rowsOf = new Map<string, typeof rows>(eventIds.map((id) => [id, []]));
  for (const row of rows) rowsOf.get(row.eventId)!.push(row);
  return new Map(
    [...rowsOf].map(([id, of]) => {
      return [
        id,
        {
          seats: of.reduce((sum, r) => sum + (r.online ? 0 : r.seats), 0),
          online: of.reduce((sum, r) => sum + (r.online ? r.seats : 0), 0),
          unitsByOffer: new Map(of.map((r) => [r.id, r.units])),
          extras: new Map(extras.filter((e) => e.eventId === id).map((e) => [e.id, e.units])),
        },
      ];
    }),
  );
}

/** Seats and units that are taken now at one event. */
export const readTaken = async (tx: Queries, eventId: string): Promise<Taken> =>
  (await readTakenOf(tx, [eventId])).get(eventId)!;

/** How many have a confirmed seat at an event. */
export async function countConfirmed(tx: Queries, eventId: string): Promise<number> {
  const row = await first<{ n: number }>(
    tx,
    "select count(*)::int as n from registrations where event_id = $1 and state = 'confirmed'",
    [eventId],
  );
  return row!.n;
}

export interface OrderRow {
  id: string;
  number: number;
  eventId: string;
  buyerContactId: string | null;
  buyerGiven: string;
  buyerFamily: string;
  buyerEmail: string | null;
  buyerPhone: string | null;
  language: 'en' | 'fr';
  currency: string;
  due: number;
  received: number;
  waived: number;
  /** Still to come in; negative: to be paid back. */
  balance: number;
  /** What has to come in before the seats are confirmed, where that is less than what is due. */
  dueNow: number | null;
  codeId: string | null;
  donation: number;
  donationFund: string | null;
  donationAnonymous: boolean;
  lines: { offerId: string; units: number }[];
  seats: number;
  state: string;
  channel: 'public' | 'staff' | 'door';
  placedAt: string;
  heldUntil: string | null;
  waitlistedAt: string | null;
  offeredUntil: string | null;
  /** When they asked, as long as nobody has decided. */
  askedAt: string | null;
}

const orderColumns = `id, number, event_id, buyer_contact_id, buyer_given, buyer_family, buyer_email, buyer_phone, language, currency, due, received, waived, balance, due_now, code_id, donation,
  donation_fund, donation_anonymous, lines, seats, state, channel, placed_at, held_until, waitlisted_at, offered_until, asked_at`;

/** An order; with `lock`, whoever reads it so as well waits until this transaction is over. */
export async function readOrder(tx: Queries, id: string, lock = false): Promise<OrderRow> {
  const row = await first<OrderRow>(
    tx,
    `select ${orderColumns} from orders where id = $1 ${lock ? 'for update' : ''}`,
    [id],
  );
  if (!row) throw notFound('This order');
  return row;
}

export interface SeatRow {
  id: string;
  orderId: string;
  eventId: string;
  offerId: string;
  unitNumber: number;
  seatNumber: number;
  contactId: string | null;
  givenName: string;
  familyName: string;
  birthDate: string | null;
  saidMinor: boolean;
  state: RegistrationState;
  passCode: string | null;
  walkIn: boolean;
  /** Where the guest of it is written to, how often they were, and when they filled it in themselves. */
  guestEmail: string | null;
  guestAsked: number;
  guestFilledAt: string | null;
}

const seatColumns =
  'id, order_id, event_id, offer_id, unit_number, seat_number, contact_id, given_name, family_name, birth_date, said_minor, state, pass_code, walk_in, guest_email, guest_asked, guest_filled_at';

export const readSeats = (tx: Queries, orderId: string): Promise<SeatRow[]> =>
  tx.query<SeatRow>(`select ${seatColumns} from registrations where order_id = $1 order by seat_number`, [
    orderId,
  ]);

/** Nobody is expected in these seats any more; who came, came. */
export const noLongerExpected = (tx: Queries, seatIds: readonly string[]): Promise<unknown> =>
  tx.query("delete from attendance where registration_id = any($1) and state in ('expected', 'missed')", [
    seatIds,
  ]);

export async function readSeat(tx: Queries, id: string): Promise<SeatRow> {
  const row = await first<SeatRow>(tx, `select ${seatColumns} from registrations where id = $1`, [id]);
  if (!row) throw notFound('This registration');
  return row;
}

/** Keeps who sits on which seat, and why that is so. */
export async function saveLinks(
  tx: Queries,
  links: readonly { id: string; contactId: string; linkReasons: readonly Reason[] }[],
): Promise<void> {
  if (links.length)
    await tx.query(
      `update registrations r set contact_id = l."contactId", link_reasons = l."linkReasons"
       from jsonb_to_recordset($1::jsonb) as l(id uuid, "contactId" uuid, "linkReasons" jsonb) where r.id = l.id`,
      [JSON.stringify(links)],
    );
}

/** Expects everybody with a confirmed seat of an order, each as the contact they are by now. */
export async function expectAttendance(tx: Queries, orderId: string): Promise<void> {
  await tx.query(
    `insert into attendance (registration_id, event_id, contact_id, state)
     select id, event_id, contact_id, 'expected' from registrations where order_id = $1 and state = 'confirmed'
     on conflict (registration_id) do update set contact_id = excluded.contact_id
       where attendance.contact_id is distinct from excluded.contact_id`,
    [orderId],
  );
}

/** The parties that wait for each of some events, first come first, with what they want of its offers. */
export async function readWaitingOf(
  tx: Queries,
  offersOf: ReadonlyMap<string, readonly Offer[]>,
): Promise<ReadonlyMap<string, WaitingParty[]>> {
  const eventIds = [...offersOf.keys()];
  const rows = await tx.query<WaitingRow>(
    `select ${orderColumns}, (select ${whyQuiet('c')} from contacts c where c.id = buyer_contact_id) as quiet,
       (select to_char(e.starts_local, 'YYYY-MM-DD') from events e where e.id = event_id) as on_day,
       coalesce((select jsonb_agg(jsonb_build_object('from', m.starts_on, 'until', m.ends_on)) from memberships m
         where m.contact_id = buyer_contact_id), '[]') as memberships
     from orders where event_id = any($1) and waitlisted_at is not null and offered_until is null order by waitlisted_at, id`,
    [eventIds],
  );
  const of = byOwner(eventIds, rows, (row) => row.eventId);
  return new Map(eventIds.map((id) => [id, of.get(id)!.map((row) => waitingParty(row, offersOf.get(id)!))]));
}

/** The same of one event. */
export const readWaiting = async (
  tx: Queries,
  eventId: string,
  offers: readonly Offer[],
): Promise<WaitingParty[]> => (await readWaitingOf(tx, new Map([[eventId, offers]]))).get(eventId)!;

interface WaitingRow extends OrderRow {
  quiet: QuietReason | null;
  /** The day of the event; null for one without a date. */
  onDay: string | null;
  memberships: Span[];
}

const waitingParty = (row: WaitingRow, offers: readonly Offer[]): WaitingParty => ({
  orderId: row.id,
  name: `${row.buyerGiven} ${row.buyerFamily}`,
  since: row.waitlistedAt!,
  seats: row.seats,
  quiet: row.quiet,
  member: row.onDay !== null && row.memberships.some((m) => holdsOn(m, row.onDay!)),
  lines: row.lines.flatMap(({ offerId, units }) => {
    const offer = offers.find((o) => o.id === offerId);
    return offer ? [{ offer, units }] : [];
  }),
});

/** What is written under an order beside its lines; they are answered by their ids. */
export async function addLines(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  orderId: string,
  lines: readonly ({ kind: string; unitPrice: number } & Record<string, unknown>)[],
): Promise<string[]> {
  const last = await first<{ position: number }>(
    w.tx,
    'select coalesce(max(position), 0) as position from order_lines where order_id = $1',
    [orderId],
  );
  const rows = lines.map((line, at) => ({
    id: w.app.ids.id(),
    orderId,
    position: last!.position + 1 + at,
    writtenAt: w.now,
    ...line,
  }));
  await insert(w.tx, 'order_lines', rows);
  return rows.map((row) => row.id);
}

/** Since when an order is owed what is not paid of it: its first seat was confirmed then; null where none is. */
export const owedSince = (order: string): string =>
  `(select min(r.confirmed_at) from registrations r where r.order_id = ${order} and r.state = 'confirmed')`;

export const readOwedSince = async (tx: Queries, orderId: string): Promise<string | null> =>
  (await first<{ since: string | null }>(tx, `select ${owedSince('$1')} as since`, [orderId]))!.since;
