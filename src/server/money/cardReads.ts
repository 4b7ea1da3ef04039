import type { CardsOpen, Payout } from '#contract/cards.ts';
import { openAttempts } from '#core/money/attempts.ts';
import { type MoveKind, moveKinds } from '#core/money/processor.ts';
import { among } from '../db/among.ts';
import type { Queries } from '../db/database.ts';

/** What a move does to what stands at the processor, as `effectOf` in core has it. */
const effect = `(case m.kind ${(Object.keys(moveKinds) as MoveKind[])
  .map((kind) => `when '${kind}' then ${moveKinds[kind]}`)
  .join(' ')} end * m.amount - m.fee)`;

const nameOf = `coalesce(nullif(trim(c.given_name || ' ' || c.family_name), ''), trim(o.buyer_given || ' ' || o.buyer_family), trim(g.given || ' ' || g.family), '')`;

/** By currency, what stands at the processor by its statement and by our books, and the fees so far. */
export const readStanding = (tx: Queries) =>
  tx.query<{ currency: string; there: number; here: number; fees: number }>(
    `select currency, sum(there)::bigint as there, sum(here)::bigint as here, sum(fees)::bigint as fees from (
       select m.currency, ${effect} as there, 0 as here, m.fee as fees from card_moves m
       union all select s.currency, 0, s.amount, 0 from book_sums s where s.account = 'cards') x
     group by currency order by currency <> (select currency from organization), currency`,
  );

/** Payouts, the latest first. */
export const readPayouts = (tx: Queries): Promise<Payout[]> =>
  tx.query<Payout>(
    `select p.about as id, p.at, p.amount, p.currency,
       (select count(*)::int from card_moves m where m.payout = p.about and m.kind <> 'payout') as moves,
       (select coalesce(sum(m.fee), 0)::bigint from card_moves m where m.payout = p.about) as fees,
       exists (select 1 from card_moves f where f.kind = 'payout failed' and f.about = p.about) as failed
     from card_moves p where p.kind = 'payout' order by p.at desc, p.id desc limit 200`,
  );

/** What went with a payout, in the order it moved. */
export const readPayoutMoves = (tx: Queries, payout: string) =>
  tx.query<{
    id: string;
    at: string;
    kind: MoveKind;
    amount: number;
    fee: number;
    currency: string;
    orderNumber: number | null;
    eventId: string | null;
    name: string;
  }>(
    `select m.id, m.at, m.kind, m.amount, m.fee, m.currency, coalesce(o.number, g.number) as order_number, coalesce(o.event_id, g.event_id, t.event_id) as event_id, ${nameOf} as name
     from card_moves m left join payment_attempts a on a.id = m.charge_id left join orders o on o.id = a.order_id
       left join gifts g on g.id = a.gift_id left join deposits t on t.id = a.deposit_id left join contacts c on c.id = coalesce(o.buyer_contact_id, g.contact_id, t.contact_id)
     where m.payout = $1 and m.kind <> 'payout' order by m.at, m.id`,
    [payout],
  );

/** Whatever stands otherwise at the processor than here, or waits for somebody; what waits longest first. */
export const readOpen = (tx: Queries, now: string): Promise<CardsOpen[]> =>
  tx.query<CardsOpen>(
    `select x.what, x.id, x.at, x.amount, coalesce(x.currency, o.currency, g.currency, t.currency) as currency, x.why, x.kind, x.about, coalesce(o.number, g.number) as order_number,
       coalesce(o.event_id, g.event_id, t.event_id) as event_id,
       e.public_title as event, ${nameOf} as name
     from (
       select 'aside' as what, m.id, m.at, m.amount, m.currency, m.aside as why, m.kind, m.about, a.order_id, a.gift_id, a.deposit_id from card_moves m
         left join payment_attempts a on a.id = m.charge_id where m.aside is not null and m.settled_at is null
       union all select 'disputed', m.id, m.at, m.amount, m.currency, null, m.kind, '', a.order_id, a.gift_id, a.deposit_id from card_moves m
         join payment_attempts a on a.id = m.charge_id
         where m.kind = 'disputed' and m.aside is null
           and not exists (select 1 from card_moves d where d.charge_id = m.charge_id and d.kind in ('dispute won', 'dispute lost'))
       union all select 'refund failed', r.id::text, coalesce(r.answered_at, r.asked_at), r.amount, null, null, null, '', p.order_id, p.gift_id, p.deposit_id from card_refunds r
         join lateral (select order_id, gift_id, deposit_id from payments where refund_id = r.id limit 1) p on true
         left join orders b on b.id = p.order_id left join gifts k on k.id = p.gift_id
         where r.state = 'failed' and (b.balance < 0 or (k.id is not null and not exists (select 1 from payments y where y.gift_id = k.id and y.amount < 0 and y.at > r.answered_at))
           or exists (select 1 from deposits l where l.id = p.deposit_id and l.state = 'owed'))
       union all select 'refund unanswered', r.id::text, r.asked_at, r.amount, null, null, null, '', p.order_id, p.gift_id, p.deposit_id from card_refunds r
         join lateral (select order_id, gift_id, deposit_id from payments where refund_id = r.id limit 1) p on true
         where r.state = 'asked' and r.asked_at < $1::timestamptz - interval '1 hour'
       union all select 'unanswered', a.id::text, a.asked_at, a.amount, null, null, null, '', a.order_id, a.gift_id, a.deposit_id from payment_attempts a
         where a.state in ${among(openAttempts)}
       union all select 'not there', a.id::text, a.answered_at, a.amount, null, null, null, '', a.order_id, a.gift_id, a.deposit_id from payment_attempts a
         cross join card_statement s where a.state = 'succeeded' and a.answered_at < s.read_at - interval '1 day'
           and not exists (select 1 from card_moves m where m.charge_id = a.id and m.kind = 'charge' and m.aside is null)) x
       left join orders o on o.id = x.order_id left join gifts g on g.id = x.gift_id left join deposits t on t.id = x.deposit_id
       left join events e on e.id = coalesce(o.event_id, g.event_id, t.event_id) left join contacts c on c.id = coalesce(o.buyer_contact_id, g.contact_id, t.contact_id)
     order by x.at, x.id limit 500`,
    [now],
  );

/** How many of them somebody has to do something about. */
export const countOpen = async (tx: Queries, now: string): Promise<number> =>
  (await readOpen(tx, now)).filter((o) => o.what !== 'unanswered' && o.what !== 'refund unanswered').length;

/** When the statement was read last. */
export const readReadAt = (tx: Queries) =>
  tx.query<{ readAt: string | null }>('select read_at from card_statement');
