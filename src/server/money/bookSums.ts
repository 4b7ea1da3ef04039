import type { Account } from '#core/money/accounts.ts';
import type { PostingKind } from '#core/money/posting.ts';
import type { Queries } from '../db/database.ts';
import { owedSince } from '../registration/store.ts';

/** What of the money is asked for; null: all of it. */
export interface OfMoney {
  eventId: string | null;
  fundId: string | null;
  contactId: string | null;
  account: Account | null;
  /** Days of the organization, both included. */
  from: string | null;
  until: string | null;
}

/** What a request asks for, the rest of it null. */
export const ofMoney = ({
  eventId = null,
  fundId = null,
  contactId = null,
  account = null,
  from = null,
  until = null,
}: {
  [K in keyof OfMoney]?: OfMoney[K] | undefined;
}): OfMoney => ({ eventId, fundId, contactId, account, from, until });

/** That a moment, by the column it is in, lies within the days that stand as these parameters. */
export const withinDays = (column: string, from: string, until: string): string =>
  `(${from}::date is null or ${column} >= ${from}::date::timestamp at time zone (select zone from organization))
   and (${until}::date is null or ${column} < (${until}::date + 1)::timestamp at time zone (select zone from organization))`;

const posted = `postings p join entries e on e.posting_id = p.id left join card_moves m on m.id = p.move_id
  left join payment_attempts a on a.id = m.charge_id left join orders o on o.id = coalesce(p.order_id, a.order_id)
  left join gifts g on g.id = coalesce(p.gift_id, a.gift_id)
  left join deposits t on t.id = coalesce(p.deposit_id, a.deposit_id)`;
const asked = `($1::uuid is null or p.event_id = $1) and ($2::uuid is null or coalesce(o.buyer_contact_id, g.contact_id, t.contact_id) = $2)
  and ($3::uuid is null or e.fund_id = $3) and ($4::text is null or e.account = $4) and ${withinDays('p.at', '$5', '$6')}`;
const parameters = (of: OfMoney) => [of.eventId, of.contactId, of.fundId, of.account, of.from, of.until];

interface BalanceRow {
  currency: string;
  account: Account;
  fundId: string | null;
  fund: string | null;
  amount: number;
}
const inOrder = 'order by s.currency <> (select currency from organization), s.currency, s.account, f.name';

/** Columns of the sums that are kept, and what of a request each is held against. */
const heldAgainst: readonly [of: 'eventId' | 'from' | 'until', condition: (at: string) => string][] = [
  ['eventId', (at) => `s.event_id = ${at}::uuid`],
  ['from', (at) => `s.day >= ${at}::date`],
  ['until', (at) => `s.day <= ${at}::date`],
];

/**
 * The sums of the accounts, gifts by fund, the currency of the organization first; what adds up to nothing is left out. Of one
 * person they are summed from the entries, else from the sums that are kept by day and event. Only what is asked for stands in the
 * statement: the database plans one that holds for anything several times as slow.
 */
export function readBalances(tx: Queries, of: OfMoney): Promise<BalanceRow[]> {
  const asks = heldAgainst.filter(([key]) => of[key] !== null);
  const [sums, params] = of.contactId
    ? [
        `select p.currency, e.account, e.fund_id, sum(e.amount)::bigint as amount from ${posted} where ${asked} group by 1, 2, 3`,
        parameters(of),
      ]
    : [
        `select s.currency, s.account, s.fund_id, sum(s.amount)::bigint as amount from book_sums s
         ${asks.length ? `where ${asks.map(([, condition], at) => condition(`$${at + 1}`)).join(' and ')}` : ''} group by 1, 2, 3`,
        asks.map(([key]) => of[key]),
      ];
  return tx.query<BalanceRow>(
    `select s.currency, s.account, s.fund_id, f.name as fund, s.amount from (${sums}) s left join funds f on f.id = s.fund_id
     where s.amount <> 0 ${inOrder}`,
    params,
  );
}

/** An entry with its posting. */
export interface EntryRow {
  key: string;
  at: string;
  postingId: string;
  kind: PostingKind;
  event: string | null;
  eventId: string | null;
  orderNumber: number | null;
  giftNumber: number | null;
  contactId: string | null;
  /** Whose it is; of what is nobody's, what was said of it. */
  name: string;
  account: Account;
  code: string;
  fund: string | null;
  amount: number;
  currency: string;
  actor: string;
}

/** Entries, oldest first, or the newest of them first. */
export const readEntries = (tx: Queries, of: OfMoney, newest: number | null = null): Promise<EntryRow[]> =>
  tx.query<EntryRow>(
    `select p.id || ' ' || e.account || ' ' || coalesce(e.fund_id::text, '') as key, p.at, p.id as posting_id, p.kind, v.public_title as event,
       p.event_id, o.number as order_number, g.number as gift_number, c.id as contact_id,
       coalesce(nullif(trim(c.given_name || ' ' || c.family_name), ''), trim(o.buyer_given || ' ' || o.buyer_family), trim(g.given || ' ' || g.family),
         k.what, b.words, '') as name,
       e.account, coalesce(n.code, '') as code, f.name as fund, e.amount, p.currency, p.actor
     from ${posted} left join events v on v.id = p.event_id left join contacts c on c.id = coalesce(o.buyer_contact_id, g.contact_id, t.contact_id)
       left join funds f on f.id = e.fund_id left join account_codes n on n.account = e.account
       left join event_costs k on k.id = p.cost_id left join bank_lines b on b.id = p.bank_line_id
     where ${asked}
     order by ${newest === null ? 'p.at, p.id' : 'p.at desc, p.id desc'}, e.amount < 0, e.account, f.name ${newest === null ? '' : `limit ${newest}`}`,
    parameters(of),
  );

/** What the entries that are asked for come to, by currency. */
export const readEntryTotals = (
  tx: Queries,
  of: OfMoney,
): Promise<{ currency: string; debits: number; credits: number }[]> =>
  tx.query<{ currency: string; debits: number; credits: number }>(
    `select p.currency, coalesce(sum(e.amount) filter (where e.amount > 0), 0)::bigint as debits,
       coalesce(-sum(e.amount) filter (where e.amount < 0), 0)::bigint as credits
     from ${posted} where ${asked} group by p.currency order by p.currency <> (select currency from organization), p.currency`,
    parameters(of),
  );

/** Bookings on which something is owed, either way, the largest first; of one event, or of one person. */
export const readOwed = (tx: Queries, eventId: string | null, contactId: string | null = null) =>
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
    startsAt: string | null;
    zone: string;
    balanceDays: number;
    bookedAt: string;
  }>(
    `select o.id as order_id, o.number as order_number, o.buyer_contact_id as contact_id,
       coalesce(nullif(trim(c.given_name || ' ' || c.family_name), ''), trim(o.buyer_given || ' ' || o.buyer_family)) as name,
       v.public_title as event, o.event_id, x.amount, o.currency, x.since, v.starts_at, v.zone, v.balance_days,
       coalesce(${owedSince('o.id')}, o.placed_at) as booked_at
     from (select p.order_id, sum(e.amount)::bigint as amount, max(p.at) as since from postings p join entries e on e.posting_id = p.id
         where e.account = 'owed' and ($1::uuid is null or p.event_id = $1) group by p.order_id having sum(e.amount) <> 0) x
       join orders o on o.id = x.order_id join events v on v.id = o.event_id left join contacts c on c.id = o.buyer_contact_id
     where $2::uuid is null or o.buyer_contact_id = $2
     order by x.amount desc, o.number limit 2000`,
    [eventId, contactId],
  );
