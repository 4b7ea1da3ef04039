import type { BookedLine, Laid } from '#core/money/books.ts';
import type { Allocation, OrderAccount } from '#core/money/lines.ts';
import type { Entry } from '#core/money/posting.ts';
import { standing } from '#core/registration/states.ts';
import { first, type Queries } from '../db/database.ts';

const linesSql = `select l.id, l.kind, l.unit_price, l.discount, l.tax, l.tax_included, l.fund_id, l.position,
       l.kind = 'kept' or e.state <> 'called off' and exists (select 1 from registrations r where r.order_id = l.order_id and r.state = any($2)
         and (l.kind in ('gift', 'extra') or (r.offer_id = l.offer_id and r.unit_number = l.unit_number))) as live
     from order_lines l join orders o on o.id = l.order_id join events e on e.id = o.event_id where l.order_id = $1`;
const allocationsSql = `select a.id, a.payment_id, p.at, a.line_id, a.amount, a.moved, a.undoes, p.method, p.method = 'waived' as waived
     from allocations a join payments p on p.id = a.payment_id where a.order_id = $1`;

/** What of an account is kept with its order. */
export type KeptAccount = Pick<OrderAccount, 'due' | 'received' | 'waived' | 'balance' | 'state'>;

export interface Books {
  lines: BookedLine[];
  allocations: (Allocation & Laid)[];
  confirmed: boolean;
  kept: KeptAccount;
  /** How the books stand for it. */
  posted: Entry[];
  eventId: string;
  currency: string;
}

/**
 * What an account is reckoned from, read at once: the lines as they were agreed, each with whether somebody still stands
 * behind it and the event takes place, and every part of money that was laid on them, in the order it came; and what was reckoned last.
 */
export async function readBooks(tx: Queries, orderId: string): Promise<Books> {
  const books = await first<Books>(
    tx,
    `select
       coalesce((select jsonb_agg(jsonb_build_object('id', l.id, 'kind', l.kind, 'unitPrice', l.unit_price, 'discount', l.discount,
         'tax', l.tax, 'taxIncluded', l.tax_included, 'fundId', l.fund_id, 'live', l.live) order by l.position) from (${linesSql}) l), '[]') as lines,
       coalesce((select jsonb_agg(jsonb_build_object('lineId', a.line_id, 'amount', a.amount, 'waived', a.waived, 'moved', a.moved, 'undoes', a.undoes, 'method', a.method) order by a.at, a.payment_id, a.id)
         from (${allocationsSql}) a), '[]') as allocations,
       exists (select 1 from registrations where order_id = $1 and state = 'confirmed') as confirmed,
       coalesce((select jsonb_agg(jsonb_build_object('account', x.account, 'fundId', x.fund_id, 'amount', x.amount)) from (
         select e.account, e.fund_id, sum(e.amount) as amount from postings p join entries e on e.posting_id = p.id where p.order_id = o.id
         group by e.account, e.fund_id having sum(e.amount) <> 0) x), '[]') as posted,
       o.event_id, o.currency,
       jsonb_build_object('due', o.due, 'received', o.received, 'waived', o.waived, 'balance', o.balance, 'state', o.state) as kept
     from orders o where o.id = $1`,
    [orderId, standing],
  );
  return books!;
}

/** Orders of an event that anything was ever asked for. */
export const ordersWithLines = (tx: Queries, eventId: string): Promise<{ id: string }[]> =>
  tx.query<{ id: string }>(
    'select id from orders o where event_id = $1 and exists (select 1 from order_lines l where l.order_id = o.id) order by placed_at, id',
    [eventId],
  );

/** The movements that a refund at the processor stands for, each with what it was laid on. */
export const readPaymentsOf = (tx: Queries, refundId: string) =>
  tx.query<{
    id: string;
    orderId: string | null;
    giftId: string | null;
    depositId: string | null;
    eventId: string | null;
    contactId: string | null;
    chargeId: string;
    refundId: string;
    kind: 'seats' | 'donation' | 'deposit';
    method: 'card';
    currency: string;
    amount: number;
    parts: { lineId: string | null; amount: number }[];
    donation: { fundId: string; amount: number; anonymous: boolean } | null;
  }>(
    `select p.id, p.order_id, p.gift_id, p.deposit_id, p.event_id, p.contact_id, p.charge_id, p.refund_id, p.kind, p.method, p.currency, p.amount,
       coalesce((select jsonb_agg(jsonb_build_object('lineId', a.line_id, 'amount', a.amount)) from allocations a where a.payment_id = p.id), '[]') as parts,
       (select jsonb_build_object('fundId', d.fund_id, 'amount', d.amount, 'anonymous', d.anonymous) from donations d where d.payment_id = p.id) as donation
     from payments p where p.refund_id = $1 order by p.id`,
    [refundId],
  );

/** The orders, gifts and deposits that money of a charge rests on, each with how much of it. */
export const readResting = (tx: Queries, chargeId: string) =>
  tx.query<{ orderId: string | null; giftId: string | null; depositId: string | null; stands: number }>(
    `select order_id, gift_id, deposit_id, sum(amount)::bigint as stands from payments where charge_id = $1 group by order_id, gift_id, deposit_id
     having sum(amount) > 0 order by max(at) desc, order_id, gift_id, deposit_id`,
    [chargeId],
  );

/** From the first charge on the statement is read every day: what no notification told of is found there. */
export const readFromNowOn = (tx: Queries, at: string): Promise<unknown> =>
  tx.query('update card_statement set next_at = $1 where next_at is null', [at]);

/** What of a charge was lost to a dispute and no payment stands for. */
export const lostOf = async (tx: Queries, chargeId: string): Promise<number> =>
  (await first<{ lost: number }>(
    tx,
    `select coalesce(sum(e.amount), 0)::bigint as lost from card_moves m join postings p on p.move_id = m.id join entries e on e.posting_id = p.id
       where m.charge_id = $1 and e.account = 'written off'`,
    [chargeId],
  ))!.lost;
