-- What was paid long ago is carried over as it stands: a gift may name no fund, and an order that cannot be posted
-- says why and holds nothing up. (Folders that began with an earlier form of 0048 have neither.)
alter table entries drop constraint entries_check;
alter table entries add constraint entries_check check (account = 'gifts' or fund_id is null);
alter table books_to_carry add column if not exists why text;

-- Staff keep a gift off the page.
alter table gifts add column hidden boolean not null default false;

-- Money taken by card before charges were kept has the processor's number with it: it is a charge like the others, and on the statement.
with charged as (
  insert into payment_attempts (id, order_id, amount, state, asked_at, answered_at, processor_ref, words)
    select (array_agg(p.id order by p.id))[1], p.order_id, sum(p.amount), 'succeeded', min(p.at), min(p.at), p.reason, '' from payments p
    where p.method = 'card' and p.charge_id is null and p.amount > 0 and p.order_id is not null and p.reason like 'CH-%'
      and not exists (select 1 from payment_attempts a where a.processor_ref = p.reason)
    group by p.order_id, p.reason
    returning id, order_id, amount, processor_ref, asked_at)
insert into standin_charges (key, ref, amount, outcome, words, charged_at, currency)
  select c.id::text, c.processor_ref, c.amount, 'succeeded', '', c.asked_at, o.currency from charged c join orders o on o.id = c.order_id
  on conflict do nothing;
update payments p set charge_id = a.id from payment_attempts a
  where p.method = 'card' and p.charge_id is null and p.amount > 0 and a.order_id = p.order_id and a.processor_ref = p.reason;
insert into standin_moves (id, at, kind, about, amount, fee, currency)
  select 'MV-' || c.ref, c.charged_at, 'charge', c.key, c.amount, round(c.amount * 0.024) + 25, c.currency from standin_charges c
  where c.outcome = 'succeeded' and c.amount > 0 and not exists (select 1 from standin_moves m where m.about = c.key and m.kind = 'charge');
-- They are older than what was read: it is read again from the beginning, and what was heard of counts once.
update card_statement set read_until = null, next_at = (select min(at) from standin_moves)
  where exists (select 1 from standin_moves m where not exists (select 1 from card_moves k where k.id = m.id));
