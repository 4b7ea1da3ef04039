-- A note is its author's: changed by whoever wrote it, or by a coordinator.
alter table contact_notes add column author_id uuid references staff (id);
update contact_notes n set author_id = s.id from staff s where s.name = n.author;

-- Who read what about somebody's health, and where.
create table care_reads (
  id uuid primary key,
  at timestamptz not null,
  staff_id uuid references staff (id),
  actor text not null,
  place text not null,
  contact_id uuid references contacts (id) on delete cascade,
  registration_id uuid references registrations (id) on delete cascade,
  event_id uuid references events (id) on delete cascade
);
create index care_reads_contact on care_reads (contact_id, at);
create index care_reads_at on care_reads (at desc);

-- A public link can be stopped, and another one put in its place.
alter table links add column renewals int not null default 0;

-- How an order came in: what strangers say of people we know is decided by staff, what staff say is taken.
alter table orders add column channel text not null default 'public' check (channel in ('public', 'staff', 'door'));

-- From where a public order came, as a keyed hash, so that one caller cannot hold every seat unpaid. Forgotten after a day.
alter table orders add column held_from text;
create index orders_held_from on orders (held_from, event_id) where held_from is not null;

-- What somebody from outside said of a contact we know: an address, a telephone, whose guardian they are.
alter table proposals add column other_contact_id uuid references contacts (id) on delete cascade;
alter table proposals add column said text not null default 'on their own page';
alter table proposals drop constraint proposals_field_check;
alter table proposals add check (field in ('given', 'family', 'birthDate', 'street', 'postalCode', 'level', 'endsOn', 'email', 'phone', 'guardian'));
alter table proposals add check ((other_contact_id is not null) = (field = 'guardian'));
drop index proposals_open;
create unique index proposals_open on proposals (contact_id, field, coalesce(membership_id, other_contact_id, '00000000-0000-0000-0000-000000000000'),
  (case when field in ('email', 'phone') then after else '' end)) where state = 'open';
create index proposals_other on proposals (other_contact_id) where other_contact_id is not null;

-- Whether somebody is of age follows from what was said at registration: what staff know of them is written there once.
update registrations r set birth_date = c.birth_date from contacts c
  where c.id = r.contact_id and r.birth_date is null and c.birth_date is not null;

-- What an order asks for, written once as it was agreed: a unit of an offer at its price then, or a gift.
create table order_lines (
  id uuid primary key,
  order_id uuid not null references orders (id),
  position int not null,
  kind text not null check (kind in ('seats', 'gift')),
  offer_id uuid references offers (id),
  unit_number int,
  fund_id uuid references funds (id),
  unit_price bigint not null check (unit_price >= 0),
  discount bigint not null default 0 check (discount between 0 and unit_price),
  tax bigint not null default 0 check (tax >= 0),
  written_at timestamptz not null,
  check ((kind = 'seats') = (offer_id is not null and unit_number is not null)),
  unique (order_id, position)
);
create unique index order_lines_unit on order_lines (order_id, offer_id, unit_number) where kind = 'seats';
create function lines_are_kept() returns trigger language plpgsql as $$
begin
  raise exception 'what was agreed is only added to, never changed';
end $$;
create trigger order_lines_kept before delete or update on order_lines for each row execute function lines_are_kept();

-- Which part of a payment, refund or waiver stands on which line; on none where it is more than was asked.
create table allocations (
  id uuid primary key,
  payment_id uuid not null references payments (id),
  order_id uuid not null references orders (id),
  line_id uuid references order_lines (id),
  amount bigint not null check (amount <> 0)
);
create index allocations_order on allocations (order_id);
create index allocations_payment on allocations (payment_id);
create index allocations_line on allocations (line_id) where line_id is not null;
create trigger allocations_kept before delete or update on allocations for each row execute function lines_are_kept();

-- What an order stands at, as core/money/lines.ts works it out from its lines; read everywhere, worked out in one place.
alter table orders add column received bigint not null default 0;
alter table orders add column waived bigint not null default 0;
alter table orders add column balance bigint not null default 0;
create index orders_balance on orders (event_id) where balance <> 0;

-- A gift that goes back is a row of its own, below nought.
alter table donations drop constraint donations_amount_check;
alter table donations add check (amount <> 0);
drop index if exists payments_attempt;
create unique index payments_attempt on payments (attempt_id, kind) where attempt_id is not null and amount > 0;

-- When the processor is asked again what became of a charge that has no answer.
alter table payment_attempts add column ask_at timestamptz;
update payment_attempts set ask_at = asked_at where state in ('asked', 'unknown');
create index payment_attempts_ask on payment_attempts (ask_at) where ask_at is not null;

-- Carries orders over that were placed before they had lines: units at the price of their offer, the gift, and every
-- movement laid on them in their order. Orders that have lines are left alone.
create function carry_orders_over(wanted uuid) returns void language plpgsql as $$
begin
  insert into order_lines (id, order_id, position, kind, offer_id, unit_number, fund_id, unit_price, written_at)
    select gen_random_uuid(), u.order_id, row_number() over (partition by u.order_id order by u.place, u.unit_number) - 1, 'seats', u.offer_id,
      u.unit_number, null, f.price, o.placed_at
    from (select order_id, offer_id, unit_number, min(seat_number) as place from registrations group by 1, 2, 3) u
      join orders o on o.id = u.order_id join offers f on f.id = u.offer_id
    where (wanted is null or o.event_id = wanted) and not exists (select 1 from order_lines l where l.order_id = o.id);
  insert into order_lines (id, order_id, position, kind, fund_id, unit_price, written_at)
    select gen_random_uuid(), o.id, 10000, 'gift', o.donation_fund, o.donation, o.placed_at from orders o
    where o.donation > 0 and (wanted is null or o.event_id = wanted)
      and not exists (select 1 from order_lines l where l.order_id = o.id and l.kind = 'gift');
  with l as (
    select id, order_id, sum(unit_price) over w - unit_price as from_, sum(unit_price) over w as to_
    from order_lines where kind = 'seats' window w as (partition by order_id order by position)),
  p as (
    select p.id, p.order_id, p.amount, sum(p.amount) over w - p.amount as from_, sum(p.amount) over w as to_
    from payments p join orders o on o.id = p.order_id
    where p.kind = 'seats' and p.amount > 0 and (wanted is null or o.event_id = wanted)
      and not exists (select 1 from allocations a where a.order_id = p.order_id)
    window w as (partition by p.order_id order by p.at, p.id)),
  laid as (
    select p.id as payment_id, p.order_id, l.id as line_id, least(p.to_, l.to_) - greatest(p.from_, l.from_) as amount
    from p join l on l.order_id = p.order_id and l.from_ < p.to_ and l.to_ > p.from_),
  rest as (
    select p.id as payment_id, p.order_id, null::uuid as line_id,
      p.amount - coalesce((select sum(amount) from laid where laid.payment_id = p.id), 0) as amount from p),
  gifts as (
    select p.id as payment_id, p.order_id, l.id as line_id, p.amount from payments p join orders o on o.id = p.order_id
      join order_lines l on l.order_id = p.order_id and l.kind = 'gift'
    where p.kind = 'donation' and (wanted is null or o.event_id = wanted)
      and not exists (select 1 from allocations a where a.order_id = p.order_id)),
  back as (
    select p.id as payment_id, p.order_id, null::uuid as line_id, p.amount from payments p join orders o on o.id = p.order_id
    where p.kind = 'seats' and p.amount < 0 and (wanted is null or o.event_id = wanted)
      and not exists (select 1 from allocations a where a.order_id = p.order_id))
  insert into allocations (id, payment_id, order_id, line_id, amount)
    select gen_random_uuid(), payment_id, order_id, line_id, amount from (
      select * from laid union all select * from rest union all select * from gifts union all select * from back) x where amount <> 0;
  update orders o set
    received = coalesce((select sum(amount) from payments p where p.order_id = o.id and p.method <> 'waived'), 0),
    waived = coalesce((select sum(amount) from payments p where p.order_id = o.id and p.method = 'waived'), 0),
    balance = due - coalesce((select sum(amount) from payments p where p.order_id = o.id), 0)
    where wanted is null or o.event_id = wanted;
end $$;
select carry_orders_over(null);

-- Accounts: sessions that can be looked at and ended, a second step at sign-in, new passwords by mail.
alter table organization add column second_step_required boolean not null default false;
alter table staff add column totp_secret text;
alter table staff add column totp_pending text;
-- The last period a code was taken from: no code is taken twice (RFC 6238 section 5.2).
alter table staff add column totp_last bigint;
alter table staff add column recovery_hashes text[] not null default '{}';
alter table staff add column password_at timestamptz;
delete from sessions;
alter table sessions add column id uuid not null unique;
alter table sessions add column seen_at timestamptz not null;
alter table sessions add column device text not null default '';
alter table sessions add column address text not null default '';
create table password_resets (
  id uuid primary key,
  token_hash text not null unique,
  staff_id uuid not null references staff (id) on delete cascade,
  created_at timestamptz not null,
  expires_at timestamptz not null,
  used_at timestamptz
);
create index password_resets_staff on password_resets (staff_id, created_at);
alter table staff_invitations add column revoked_at timestamptz;
create index audit_at on audit (at desc);

-- How many rows tables that are only added to hold at least; told at start from what is there, so that a file that was
-- cut or copied badly is noticed before anything is done with it.
create table row_floors (name text primary key, at_least bigint not null, at timestamptz not null);
create function contacts_fewer() returns trigger language plpgsql as $$
begin
  update row_floors set at_least = at_least - (select count(*) from gone) where name = 'contacts';
  return null;
end $$;
create trigger contacts_fewer after delete on contacts referencing old table as gone
  for each statement execute function contacts_fewer();

-- Imports are applied and undone in lots, so that others have their turn; a lot cut short by a restart goes on.
alter table imports drop constraint imports_state_check;
alter table imports add check (state in ('checking', 'checked', 'applying', 'applied', 'undoing', 'undone', 'cancelled'));
alter table imports add column tally jsonb;
