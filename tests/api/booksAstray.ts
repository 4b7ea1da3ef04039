import type { Queries } from '#server/db/database.ts';

/**
 * Orders whose books stand otherwise than they do, and sums that are not those of the entries: there are none, whatever was done. What
 * came in is on the accounts of money, what was given on those of the funds; what is owed is the balance, without a gift that was promised
 * and has not come, and of an order nobody has a seat of yet only what came.
 */
export const booksAstray = (
  db: Queries,
): Promise<{ what: string; number: number | null; books: number; orders: number }[]> =>
  db.query<{ what: string; number: number | null; books: number; orders: number }>(`
    with b as (
      select p.order_id, coalesce(sum(e.amount) filter (where e.account in ('cards', 'bank', 'cash', 'disputed')), 0)::bigint as money,
        coalesce(-sum(e.amount) filter (where e.account = 'gifts'), 0)::bigint as gifts,
        coalesce(sum(e.amount) filter (where e.account = 'owed'), 0)::bigint as owed
      from postings p join entries e on e.posting_id = p.id group by p.order_id),
    o as (
      select o.id, o.number, o.received, o.balance, o.state, exists (select 1 from registrations r where r.order_id = o.id and r.state = 'confirmed') as confirmed,
        coalesce((select sum(d.amount) from donations d where d.order_id = o.id), 0)::bigint as given,
        exists (select 1 from order_lines l where l.order_id = o.id and l.kind = 'gift') as promised
      from orders o where not exists (select 1 from books_to_carry c where c.order_id = o.id))
    select 'money' as what, o.number, coalesce(b.money, 0) as books, o.received as orders from o left join b on b.order_id = o.id
      where coalesce(b.money, 0) <> o.received
    union all select 'gifts', o.number, coalesce(b.gifts, 0), o.given from o left join b on b.order_id = o.id where coalesce(b.gifts, 0) <> o.given
    union all select 'owed', o.number, coalesce(b.owed, 0), o.balance from o left join b on b.order_id = o.id
      where o.confirmed and not o.promised and coalesce(b.owed, 0) <> o.balance
    union all select 'gift', g.number, coalesce(x.money, 0), g.received from gifts g left join (select p.gift_id, sum(e.amount) filter (where e.account <> 'gifts')::bigint as money
      from postings p join entries e on e.posting_id = p.id group by p.gift_id) x on x.gift_id = g.id
      where coalesce(x.money, 0) <> g.received or g.received <> coalesce((select sum(d.amount) from donations d where d.gift_id = g.id), 0)
    union all select 'sums', null, coalesce(s.amount, 0), coalesce(x.amount, 0)
      from (select event_id, account, fund_id, currency, sum(amount)::bigint as amount from book_sums group by 1, 2, 3, 4) s
      full join (select p.event_id, e.account, e.fund_id, p.currency, sum(e.amount)::bigint as amount from postings p join entries e on e.posting_id = p.id
        group by 1, 2, 3, 4) x on s.event_id is not distinct from x.event_id and s.account = x.account and s.fund_id is not distinct from x.fund_id and s.currency = x.currency
      where coalesce(s.amount, 0) <> coalesce(x.amount, 0)`);
