import type { LedgerRow, LedgerTotals } from '#contract/money.ts';
import { openAttempts } from '#core/money/attempts.ts';
import { among } from '../db/among.ts';
import type { Queries } from '../db/database.ts';
import { type OfMoney, withinDays } from './bookSums.ts';

const donated = 'left join donations d on d.payment_id = p.id';
const asked = `($1::uuid is null or p.event_id = $1) and ($2::uuid is null or p.contact_id = $2) and ($3::uuid is null or d.fund_id = $3)
  and ${withinDays('p.at', '$4', '$5')}`;
const parameters = (of: OfMoney) => [of.eventId, of.contactId, of.fundId, of.from, of.until];

/** Money that moved, of one kind or of all, newest first. */
export const ledgerRows = (
  tx: Queries,
  of: OfMoney,
  kind: string | null,
  limit: number | null,
): Promise<LedgerRow[]> =>
  tx.query<LedgerRow>(
    `select p.id, p.at, p.contact_id, coalesce(nullif(trim(c.given_name || ' ' || c.family_name), ''), trim(o.buyer_given || ' ' || o.buyer_family), '') as name,
       e.public_title as event, p.event_id, o.number as order_number, p.kind, p.method, f.name as fund, p.amount, p.currency, p.reason
     from payments p left join contacts c on c.id = p.contact_id left join orders o on o.id = p.order_id left join events e on e.id = p.event_id
       ${donated} left join funds f on f.id = d.fund_id
     where ${asked}
       and ($6::text is null or case when $6 = 'refund' then p.amount < 0 when $6 = 'waived' then p.method = 'waived' else p.kind = $6 and p.amount > 0 and p.method <> 'waived' end)
     order by p.at desc, p.id desc ${limit === null ? '' : `limit ${limit}`}`,
    [...parameters(of), kind],
  );

/** The sums of the ledger by currency, that of the organization first. What was let off did not come in: it is a figure of its own. */
export const ledgerTotals = (tx: Queries, of: OfMoney): Promise<LedgerTotals[]> =>
  tx.query<LedgerTotals>(
    `select p.currency, coalesce(sum(p.amount) filter (where kind = 'seats' and p.amount > 0 and method <> 'waived'), 0)::bigint as seats,
       coalesce(sum(p.amount) filter (where kind = 'donation' and p.amount > 0 and method <> 'waived'), 0)::bigint as donations,
       coalesce(sum(p.amount) filter (where kind = 'deposit' and p.amount > 0 and method <> 'waived'), 0)::bigint as deposits,
       coalesce(-sum(p.amount) filter (where p.amount < 0 and method <> 'waived'), 0)::bigint as refunds,
       coalesce(sum(p.amount) filter (where method <> 'waived'), 0)::bigint as net,
       coalesce(sum(p.amount) filter (where method = 'waived'), 0)::bigint as waived
     from payments p ${donated} where ${asked}
     group by p.currency order by p.currency <> (select currency from organization), p.currency`,
    parameters(of),
  );

/** Charges that the processor has not answered yet. */
export const unanswered = (tx: Queries, { eventId, contactId }: OfMoney) =>
  tx.query<{
    orderNumber: number;
    name: string;
    amount: number;
    currency: string;
    since: string;
    eventId: string;
  }>(
    `select o.number as order_number, o.buyer_given || ' ' || o.buyer_family as name, p.amount, o.currency, p.asked_at as since, o.event_id
     from payment_attempts p join orders o on o.id = p.order_id
     where p.state in ${among(openAttempts)} and ($1::uuid is null or o.event_id = $1) and ($2::uuid is null or o.buyer_contact_id = $2)
     order by p.asked_at`,
    [eventId, contactId],
  );
