-- The books: what moved and what was agreed as postings, whose entries add up to nothing. Debits are above nought, credits below.
create table postings (
  id uuid primary key,
  at timestamptz not null,
  kind text not null check (kind in ('booked', 'changed', 'received', 'returned', 'let off')),
  order_id uuid not null,
  event_id uuid not null references events (id),
  currency text not null,
  actor text not null,
  foreign key (order_id, currency) references orders (id, currency)
);
create index postings_order on postings (order_id);
create index postings_event on postings (event_id);
create index postings_at on postings (at, id);

create table entries (
  posting_id uuid not null references postings (id),
  account text not null check (account in ('cards', 'bank', 'cash', 'owed', 'disputed', 'in kind', 'taxes', 'seats', 'extras', 'kept', 'gifts',
    'discounts', 'favours', 'written off', 'fees')),
  fund_id uuid references funds (id),
  amount bigint not null check (amount <> 0),
  check ((account = 'gifts') = (fund_id is not null)),
  unique nulls not distinct (posting_id, account, fund_id)
);

create function books_are_kept() returns trigger language plpgsql as $$
begin
  raise exception 'what was posted is never changed: post what corrects it';
end $$;
create trigger postings_kept before delete or update on postings for each row execute function books_are_kept();
create trigger entries_kept before delete or update on entries for each row execute function books_are_kept();

-- Sums of the books by account, fund, event, currency and day of the organization; kept as entries come, and asked for everything that
-- is a sum.
create table book_sums (
  account text not null,
  fund_id uuid,
  event_id uuid not null,
  currency text not null,
  day date not null,
  amount bigint not null,
  unique nulls not distinct (event_id, day, currency, account, fund_id)
);
create index book_sums_day on book_sums (day);
-- The entries of a posting are written in one statement, and add up to nothing. With them the sums are kept.
create function entries_posted() returns trigger language plpgsql as $$
begin
  if exists (select 1 from (select posting_id, sum(amount) as amount, count(*) as n from added group by posting_id) a
      where a.amount <> 0 or a.n <> (select count(*) from entries e where e.posting_id = a.posting_id)) then
    if exists (select 1 from added group by posting_id having sum(amount) <> 0) then
      raise exception 'a posting whose entries do not add up to nothing';
    end if;
    raise exception 'entries added to a posting that was made before';
  end if;
  insert into book_sums as s (account, fund_id, event_id, currency, day, amount)
    select a.account, a.fund_id, p.event_id, p.currency, (p.at at time zone coalesce((select zone from organization), 'UTC'))::date, sum(a.amount)
      from added a join postings p on p.id = a.posting_id group by 1, 2, 3, 4, 5
  on conflict (event_id, day, currency, account, fund_id) do update set amount = s.amount + excluded.amount;
  return null;
end $$;
create trigger entries_posted after insert on entries referencing new table as added for each statement execute function entries_posted();

-- And no posting is without them.
create function posting_has_entries() returns trigger language plpgsql as $$
begin
  if not exists (select 1 from entries where posting_id = new.id) then
    raise exception 'a posting without entries';
  end if;
  return null;
end $$;
create constraint trigger posting_has_entries after insert on postings deferrable initially deferred
  for each row execute function posting_has_entries();

-- Orders that were there before the books: they are posted as they went, once, at the next start.
create table books_to_carry (order_id uuid primary key references orders (id));
insert into books_to_carry (order_id) select o.id from orders o
  where exists (select 1 from order_lines l where l.order_id = o.id and l.unit_price + l.tax > 0)
    or exists (select 1 from allocations a where a.order_id = o.id);
