import type { Queries } from '#server/db/database.ts';

/**
 * What the card processor has of all that was paid by card until now: every charge with its fee, paid out on the Monday after it was two
 * days old; one that is contested, and one that was taken on a terminal and belongs to nothing here. Its statement tells of them as of
 * anything else.
 */
export async function writeStatement(tx: Queries, until: string): Promise<void> {
  // In the weeks that are played money is recorded as received; its charges are made up afterwards.
  await tx.query(
    `insert into payment_attempts (id, order_id, amount, state, asked_at, answered_at, processor_ref)
     select md5('charge ' || order_id || reason)::uuid, order_id, sum(amount), 'succeeded', min(at), min(at), 'CH-' || upper(left(md5(order_id || reason), 12))
     from payments where method = 'card' and charge_id is null and amount > 0 group by order_id, reason`,
  );
  await tx.query(
    `update payments set charge_id = md5('charge ' || order_id || reason)::uuid where method = 'card' and charge_id is null and amount > 0`,
  );
  await tx.query(
    `insert into standin_charges (key, ref, amount, currency, outcome, words, charged_at)
     select a.id::text, a.processor_ref, a.amount, o.currency, 'succeeded', '', a.asked_at from payment_attempts a join orders o on o.id = a.order_id
     where a.state = 'succeeded' on conflict do nothing`,
  );
  await tx.query(
    `insert into standin_moves (id, at, kind, about, amount, fee, currency, payout)
     select 'MV-' || ref, charged_at, 'charge', key, amount, round(amount * 0.024) + 25, currency, case when monday <= $1 then 'PO-' || to_char(monday, 'YYYYMMDD') end
     from (select *, date_trunc('week', (charged_at at time zone 'UTC') + interval '9 days') at time zone 'UTC' + interval '5 hours' as monday from standin_charges) c
     where outcome = 'succeeded' and amount > 0`,
    [until],
  );
  await tx.query(
    `insert into standin_moves (id, at, kind, about, amount, fee, currency, payout)
     select 'MV-' || payout, to_timestamp(payout, '"PO-"YYYYMMDD') + interval '5 hours', 'payout', payout, sum(amount - fee), 0, currency, payout
     from standin_moves where payout is not null group by payout, currency`,
  );
  await tx.query(
    `insert into standin_moves (id, at, kind, about, amount, fee, currency) values ('MV-C0A57E1D2F00', '2026-07-04T15:12:00Z', 'charge', 'TERMINAL 0412', 3200, 102, 'CAD')`,
  );
  await tx.query(
    `insert into standin_moves (id, at, kind, about, amount, fee, currency)
     select 'MV-5D1C7A9B0E42', $1::timestamptz - interval '20 hours', 'disputed', key, amount, 1500, currency from standin_charges
     where charged_at between $1::timestamptz - interval '9 days' and $1::timestamptz - interval '4 days' and amount >= 2500 order by charged_at, key limit 1`,
    [until],
  );
  await tx.query(
    `insert into standin_coming (id, at, kind, about, amount, currency) values (md5('payout')::uuid, date_trunc('week', $1::timestamptz) + interval '7 days 5 hours', 'payout', '', 0, 'CAD')`,
    [until],
  );
}
