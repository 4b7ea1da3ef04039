import type { Account } from '#core/money/accounts.ts';
import type { PostingKind } from '#core/money/posting.ts';
import type { Queries } from '../db/database.ts';

/** What of the books is asked for. */
export interface OfBooks {
  eventId: string | null;
  /** Days of the organization, both included. */
  from: string | null;
  until: string | null;
}

const within =
  '($1::uuid is null or s.event_id = $1) and ($2::date is null or s.day >= $2) and ($3::date is null or s.day <= $3)';

/** The sums of the accounts, gifts by fund, the currency of the organization first; what adds up to nothing is left out. */
export const readBalances = (
  tx: Queries,
  { eventId, from, until }: OfBooks,
): Promise<{ currency: string; account: Account; fund: string | null; amount: number }[]> =>
  tx.query<{ currency: string; account: Account; fund: string | null; amount: number }>(
    `select s.currency, s.account, f.name as fund, sum(s.amount)::bigint as amount from book_sums s left join funds f on f.id = s.fund_id
     where ${within} group by s.currency, s.account, f.name having sum(s.amount) <> 0
     order by s.currency <> (select currency from organization), s.currency, s.account, f.name`,
    [eventId, from, until],
  );

/** An entry with its posting, as it is taken along. */
export interface EntryRow {
  at: string;
  postingId: string;
  kind: PostingKind;
  event: string | null;
  orderNumber: number | null;
  giftNumber: number | null;
  name: string;
  account: Account;
  code: string;
  fund: string | null;
  amount: number;
  currency: string;
  actor: string;
}

/** Every entry, oldest first. */
export const readEntries = (tx: Queries, { eventId, from, until }: OfBooks): Promise<EntryRow[]> =>
  tx.query<EntryRow>(
    `select p.at, p.id as posting_id, p.kind, v.public_title as event, o.number as order_number, g.number as gift_number,
       coalesce(nullif(trim(c.given_name || ' ' || c.family_name), ''), trim(o.buyer_given || ' ' || o.buyer_family), trim(g.given || ' ' || g.family), '') as name,
       e.account, coalesce(k.code, '') as code, f.name as fund, e.amount, p.currency, p.actor
     from postings p join entries e on e.posting_id = p.id left join card_moves m on m.id = p.move_id left join payment_attempts a on a.id = m.charge_id
       left join orders o on o.id = coalesce(p.order_id, a.order_id) left join gifts g on g.id = coalesce(p.gift_id, a.gift_id) left join events v on v.id = p.event_id
       left join contacts c on c.id = coalesce(o.buyer_contact_id, g.contact_id) left join funds f on f.id = e.fund_id
       left join account_codes k on k.account = e.account
     where ($1::uuid is null or p.event_id = $1) and ($2::date is null or (p.at at time zone (select zone from organization))::date >= $2)
       and ($3::date is null or (p.at at time zone (select zone from organization))::date <= $3)
     order by p.at, p.id, e.amount < 0, e.account, f.name`,
    [eventId, from, until],
  );

/** Bookings on which something is owed, either way, the largest first. */
export const readOwed = (tx: Queries, eventId: string | null) =>
  tx.query<{
    orderId: string;
    orderNumber: number;
    contactId: string | null;
    name: string;
    event: string;
    eventId: string;
    amount: number;
    currency: string;
    since: string;
  }>(
    `select o.id as order_id, o.number as order_number, o.buyer_contact_id as contact_id,
       coalesce(nullif(trim(c.given_name || ' ' || c.family_name), ''), trim(o.buyer_given || ' ' || o.buyer_family)) as name,
       v.public_title as event, o.event_id, x.amount, o.currency, x.since
     from (select p.order_id, sum(e.amount)::bigint as amount, max(p.at) as since from postings p join entries e on e.posting_id = p.id
         where e.account = 'owed' and ($1::uuid is null or p.event_id = $1) group by p.order_id having sum(e.amount) <> 0) x
       join orders o on o.id = x.order_id join events v on v.id = o.event_id left join contacts c on c.id = o.buyer_contact_id
     order by x.amount desc, o.number limit 2000`,
    [eventId],
  );
