import type { ReceiptBatch, ReceiptRow, ReceiptSettings } from '#contract/receipts.ts';
import type { Giver, Part, ReceiptContent } from '#core/receipts/year.ts';
import { standing } from '#core/registration/states.ts';
import { among } from '../db/among.ts';
import { first, type Queries, update } from '../db/database.ts';
import { endSql } from '../events/end.ts';

const day = (at: string) => `(${at} at time zone (select zone from organization))::date`;
const none = "'' as thing, '' as appraised_by";
/** What a seat, the k-th of those of a table, has of an amount of the table: together they have all of it. A table without any has it whole. */
const share = (amount: string) =>
  `case when g.k is null then (${amount}) else (${amount}) * g.k / u.seats - (${amount}) * (g.k - 1) / u.seats end`;

/**
 * Everything that somebody paid and that may be receipted, each with a name for good: gifts by themselves, gifts with bookings, the seats
 * of a booking, and what was sold with it. A seat is worth what its offer says, its taxes with it; what was given up and went back is not
 * in it. Where an offer that was paid says no value, nobody can tell it. All of a booking is whoever booked's, but for seats whose guests
 * paid themselves, as whoever booked says.
 */
const partsSql = `
  select 'gift ' || g.id as part, g.contact_id, ${day('g.given_at')} as "on", g.received as amount, g.currency,
    case g.kind when 'in kind' then 'in kind' else 'gift' end as kind, 0::bigint as itself, g.advantage as beside, 0::bigint as near_cash,
    f.name as what, '' as received, g.advantage_what as received_beside, g.thing, g.appraised_by, false as to_come
  from gifts g join funds f on f.id = g.fund_id where g.given_at is not null
  union all
  select 'order gift ' || o.id, o.buyer_contact_id, ${day('min(d.at)')}, sum(d.amount)::bigint, o.currency, 'gift', 0, 0, 0,
    max(f.name), '', '', ${none}, false
  from donations d join orders o on o.id = d.order_id join funds f on f.id = d.fund_id group by o.id
  union all
  select 'seats ' || o.id || coalesce(' ' || s.own, ''), coalesce(s.own, o.buyer_contact_id), ${day('s.paid_at')}, s.paid, o.currency, 'seats', s.itself,
    coalesce(v.beside, 0) * s.seats, coalesce(v.near_cash, 0) * s.seats, e.public_title,
    coalesce(nullif(v.itself_what, ''), e.public_title), coalesce(v.beside_what, ''),
    ${none}, ${endSql('e')} > $1::timestamptz
  from orders o join events e on e.id = o.event_id
    left join event_favours v on v.event_id = e.id
    join lateral (
      select g.own, sum(${share('u.paid')})::bigint as paid, max(u.paid_at) as paid_at, count(g.k)::int as seats,
        case when bool_or(u.paid > 0 and u.seats > 0 and f.value_received = 0) then null
          else sum(${share('case when u.seats > 0 then round(f.value_received * u.seats::numeric / f.seats_per_unit)::bigint + l.tax + l.tax_included else 0 end')})::bigint end as itself
      from order_lines l join offers f on f.id = l.offer_id
        join lateral (
          select coalesce((select sum(a.amount) from allocations a join payments p on p.id = a.payment_id where a.line_id = l.id and p.method <> 'waived'), 0)::bigint as paid,
            (select max(p.at) from allocations a join payments p on p.id = a.payment_id where a.line_id = l.id and p.method <> 'waived' and a.amount > 0) as paid_at,
            (select count(*) from registrations r where r.order_id = l.order_id and r.offer_id = l.offer_id and r.unit_number = l.unit_number
               and r.state in ${among(standing)}) as seats) u on true
        left join lateral (
          select case when r.pays_own and r.contact_id <> o.buyer_contact_id then r.contact_id end as own, row_number() over (order by r.seat_number) as k
          from registrations r where r.order_id = l.order_id and r.offer_id = l.offer_id and r.unit_number = l.unit_number
            and r.state in ${among(standing)}) g on true
      where l.order_id = o.id and l.kind = 'seats' group by g.own) s on s.paid > 0
  union all
  select case when x.chance then 'chances ' else 'extras ' end || o.id, o.buyer_contact_id, ${day('x.paid_at')}, x.paid, o.currency,
    case when x.chance then 'chance' else 'thing' end, x.itself, 0, 0, x.what, x.what, '', ${none},
    ${endSql('e')} > $1::timestamptz
  from orders o join events e on e.id = o.event_id
    join lateral (
      select t.chance, sum(a.amount)::bigint as paid, max(p.at) filter (where a.amount > 0) as paid_at, string_agg(distinct t.name, ', ') as what,
        (select coalesce(sum(case when t2.value_received > 0 then t2.value_received else l2.unit_price end + l2.tax), 0)::bigint
           from order_lines l2 join extras t2 on t2.id = l2.extra_id where l2.order_id = o.id and l2.kind = 'extra' and t2.chance = t.chance) as itself
      from order_lines l join extras t on t.id = l.extra_id join allocations a on a.line_id = l.id join payments p on p.id = a.payment_id
      where l.order_id = o.id and l.kind = 'extra' and p.method <> 'waived' group by t.chance) x on x.paid > 0`;

/** A part with whose it is, and whether a receipt stands for it. */
export interface PartRow extends Part {
  contactId: string;
  receipted: boolean;
}

/** What was paid in a year, or by one person, or is one of these parts. */
export const readParts = (
  tx: Queries,
  of: {
    now: string;
    year?: number | null;
    contactIds?: readonly string[] | null;
    parts?: readonly string[] | null;
  },
): Promise<PartRow[]> =>
  tx.query<PartRow>(
    `select x.*, exists (select 1 from receipt_parts r where r.part = x.part and r.live) as receipted from (${partsSql}) x
     where x.contact_id is not null and x.amount > 0 and ($2::int is null or extract(year from x.on) = $2) and ($3::uuid[] is null or x.contact_id = any($3))
       and ($4::text[] is null or x.part = any($4)) order by x.contact_id, x.on, x.part`,
    [of.now, of.year ?? null, of.contactIds ?? null, of.parts ?? null],
  );

/**
 * Who these are, as a receipt says them: by their record. What was typed with a gift only completes the address that stands there: anybody
 * may give in somebody's name, and another street waits on the record for a decision.
 */
export const readGivers = (
  tx: Queries,
  ids: readonly string[],
): Promise<(Giver & { id: string; language: 'en' | 'fr'; email: string | null })[]> =>
  tx.query<Giver & { id: string; language: 'en' | 'fr'; email: string | null }>(
    `select c.id, trim(c.given_name || ' ' || c.family_name) as name, c.erased_at is not null as erased, case c.language when 'fr' then 'fr' else 'en' end as language,
       case when c.street <> '' and c.moved_on is null then coalesce(g.address, concat_ws(E'\\n', c.street, nullif(c.postal_code, ''))) else '' end as address, g.country,
       (select m.email from contact_emails m where m.contact_id = c.id and m.bounced_at is null and m.ended_on is null order by m.position limit 1) as email
     from contacts c left join lateral (
       select concat_ws(E'\\n', street, nullif(trim(concat_ws(' ', nullif(town, ''), nullif(postal_code, ''))), '')) as address, country from gifts
       where contact_id = c.id and received > 0 and lower(trim(street)) = lower(trim(c.street)) and coalesce(nullif(postal_code, ''), c.postal_code) is not distinct from c.postal_code
       order by placed_at desc limit 1) g on true
     where c.id = any($1)`,
    [ids],
  );

export const readSettings = async (
  tx: Queries,
  lock = false,
): Promise<ReceiptSettings & { version: number }> =>
  (await first<ReceiptSettings & { version: number }>(
    tx,
    `select legal_name, address as address_lines, registration, place, signer, signer_role, thanks, indexed, version from receipt_settings${lock ? ' for update' : ''}`,
  ))!;

/** Takes the next number of a series: until this is kept nobody else gets one, and taken back it is there again. */
export const nextNumber = async (tx: Queries, series: string): Promise<number> =>
  (await first<{ last: number }>(
    tx,
    'insert into receipt_numbers as n (series, last) values ($1, 1) on conflict (series) do update set last = n.last + 1 returning last',
    [series],
  ))!.last;

/** A receipt as it is kept. */
export interface ReceiptKept {
  id: string;
  number: string;
  year: number;
  contactId: string | null;
  language: 'en' | 'fr';
  content: ReceiptContent;
  sha256: string;
  state: 'issued' | 'void';
  replacedBy: string | null;
  issuedAt: string;
}

const kept = `select r.id, r.number, r.year, r.contact_id, r.language, r.content, r.sha256, r.state, r.issued_at,
  (select n.number from receipts n where n.replaces = r.id) as replaced_by from receipts r`;

export const readReceipt = (tx: Queries, id: string): Promise<ReceiptKept | null> =>
  first<ReceiptKept>(tx, `${kept} where r.id = $1`, [id]);
export const readReceiptByNumber = (tx: Queries, number: string): Promise<ReceiptKept | null> =>
  first<ReceiptKept>(tx, `${kept} where r.number = $1`, [number]);
export const readReceiptsOf = (
  tx: Queries,
  batchId: string,
  after: string,
  limit: number,
): Promise<ReceiptKept[]> =>
  tx.query<ReceiptKept>(`${kept} where r.batch_id = $1 and r.number > $2 order by r.number limit ${limit}`, [
    batchId,
    after,
  ]);

/** Locks a receipt that is about to be voided. */
export const lockReceipt = (tx: Queries, id: string) =>
  first<{ state: 'issued' | 'void' }>(tx, 'select state from receipts where id = $1 for update', [id]);

export const readReceiptParts = async (tx: Queries, id: string): Promise<string[]> =>
  (
    await tx.query<{ part: string }>('select part from receipt_parts where receipt_id = $1 order by part', [
      id,
    ])
  ).map((r) => r.part);

/** Receipts of a year, the latest first; those that what they are for, or whose it is, has changed since are stale. */
export const readReceipts = (tx: Queries, now: string, year: number, limit: number): Promise<ReceiptRow[]> =>
  tx.query<ReceiptRow>(
    `select r.id, r.number, r.issued_at, r.contact_id, r.content -> 'giver' ->> 'name' as name, r.amount, r.advantage, r.eligible, r.currency, r.state,
       r.void_why as why, b.number as replaces, n.number as replaced_by,
       r.state = 'issued' and exists (select 1 from receipt_parts p left join (${partsSql}) x on x.part = p.part
         where p.receipt_id = r.id and p.live and (coalesce(x.amount, 0) <> p.amount or x.contact_id is distinct from r.contact_id)) as stale
     from receipts r left join receipts b on b.id = r.replaces left join receipts n on n.replaces = r.id
     where r.year = $2 order by r.number desc limit ${limit}`,
    [now, year],
  );

export const readReceiptTotals = (tx: Queries, year: number) =>
  tx.query<{ currency: string; count: number; eligible: number }>(
    "select currency, count(*)::int as count, sum(eligible)::bigint as eligible from receipts where year = $1 and state = 'issued' group by currency order by currency",
    [year],
  );

/** Years in which anything was paid that receipts are about, or receipts stand. */
export const readYears = async (tx: Queries): Promise<number[]> =>
  (
    await tx.query<{ year: number }>(
      `select distinct extract(year from ${day('at')})::int as year from payments where amount > 0 union select distinct year from receipts order by 1 desc`,
    )
  ).map((r) => r.year);

const batchColumns = `select b.id, b.year, b.mail, b.state, b.begun_at,
  (select count(*)::int from receipt_batch_people p where p.batch_id = b.id) as "all",
  (select count(*)::int from receipt_batch_people p where p.batch_id = b.id and p.state = 'written') as written,
  (select count(*)::int from receipt_batch_people p where p.batch_id = b.id and p.state = 'left') as left from receipt_batches b`;

export const readBatches = (tx: Queries, year: number): Promise<ReceiptBatch[]> =>
  tx.query<ReceiptBatch>(`${batchColumns} where b.year = $1 order by b.begun_at desc`, [year]);
export const readBatch = (tx: Queries, id: string): Promise<ReceiptBatch | null> =>
  first<ReceiptBatch>(tx, `${batchColumns} where b.id = $1`, [id]);

/** Asks for batches that are being written. */
export const nextBatchSql =
  "select begun_at as at, id from receipt_batches where state = 'running' order by begun_at, id limit 1";

/** The next people of a batch; the batch is locked, so that it is written by one at a time. */
export async function nextPeople(
  tx: Queries,
  batchId: string,
  limit: number,
): Promise<{ running: boolean; ids: string[] }> {
  const batch = await first<{ state: string }>(
    tx,
    'select state from receipt_batches where id = $1 for update',
    [batchId],
  );
  if (batch?.state !== 'running') return { running: false, ids: [] };
  const rows = await tx.query<{ contactId: string }>(
    `select contact_id from receipt_batch_people where batch_id = $1 and state = 'waits' order by contact_id limit ${limit}`,
    [batchId],
  );
  return { running: true, ids: rows.map((r) => r.contactId) };
}

/** What is said of the seats of an event for receipts. */
export const readFavours = (tx: Queries, eventId: string) =>
  first<{ itselfWhat: string; besideWhat: string; beside: number; nearCash: number }>(
    tx,
    'select itself_what, beside_what, beside, near_cash from event_favours where event_id = $1',
    [eventId],
  );

export const saveFavours = (
  tx: Queries,
  eventId: string,
  {
    itselfWhat,
    besideWhat,
    beside,
    nearCash,
  }: { itselfWhat: string; besideWhat: string; beside: number; nearCash: number },
): Promise<unknown> =>
  tx.query(
    `insert into event_favours (event_id, itself_what, beside_what, beside, near_cash) values ($1, $2, $3, $4, $5)
     on conflict (event_id) do update set itself_what = excluded.itself_what, beside_what = excluded.beside_what, beside = excluded.beside, near_cash = excluded.near_cash`,
    [eventId, itselfWhat, besideWhat, beside, nearCash],
  );

export const saveSettings = (
  tx: Queries,
  s: ReceiptSettings,
  version: number,
  now: string,
): Promise<unknown> =>
  tx.query(
    `update receipt_settings set legal_name = $1, address = $2, registration = $3, place = $4, signer = $5, signer_role = $6, thanks = $7, indexed = $8,
       version = $9, updated_at = $10`,
    [
      s.legalName,
      s.addressLines,
      s.registration,
      s.place,
      s.signer,
      s.signerRole,
      JSON.stringify(s.thanks),
      JSON.stringify(s.indexed),
      version,
      now,
    ],
  );

/** Keeps whether who sits on a seat paid for it themselves. */
export const saveOwnPayment = (tx: Queries, seatId: string, own: boolean): Promise<void> =>
  update(tx, 'registrations', seatId, { paysOwn: own });
