-- What is offered: prices beside the full one, windows, limits, ages, what only a code shows; extras with kinds and stock; codes; taxes.
alter table offers
  add pricing text not null default 'fixed' check (pricing in ('fixed', 'pay what you can', 'deposit')),
  add least bigint not null default 0 check (least >= 0),
  add deposit bigint not null default 0 check (deposit >= 0),
  add prices jsonb not null default '[]',
  add taxed boolean not null default true,
  add value_received bigint not null default 0 check (value_received >= 0),
  add least_per_order int not null default 1 check (least_per_order >= 1),
  add most_per_person int check (most_per_person >= 1),
  add opens_local text,
  add closes_local text,
  add hidden boolean not null default false,
  add from_age int,
  add to_age int;
create table extras (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  position int not null,
  name text not null,
  about text not null default '',
  french jsonb not null default '{"name": "", "about": ""}',
  price bigint not null check (price >= 0),
  taxed boolean not null default true,
  value_received bigint not null default 0 check (value_received >= 0),
  quantity int check (quantity > 0),
  most_per_order int not null default 10 check (most_per_order between 1 and 100),
  options jsonb not null default '[]',
  removed_at timestamptz
);
create index extras_event on extras (event_id, position);
create table codes (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  position int not null,
  code text not null,
  note text not null default '',
  offer_ids uuid[] not null default '{}',
  opens boolean not null default false,
  off jsonb,
  from_local text,
  until_local text,
  most int check (most > 0),
  most_per_person int check (most_per_person > 0),
  removed_at timestamptz
);
create index codes_event on codes (event_id, position);
alter table events add taxes jsonb not null default '[]';

-- What an order asks for may be an extra; of what it asks, how much is paid with the booking. A unit keeps the tax its price has in it.
alter table order_lines drop constraint order_lines_kind_check, drop constraint order_lines_check;
alter table order_lines add extra_id uuid references extras (id), add option_id uuid, add tax_included bigint not null default 0;
alter table order_lines
  add constraint order_lines_kind_check check (kind in ('seats', 'gift', 'extra')),
  add constraint order_lines_check check ((kind = 'seats') = (offer_id is not null) and (kind = 'extra') = (extra_id is not null)
    and (kind = 'gift') = (unit_number is null));
create unique index order_lines_extra on order_lines (order_id, extra_id, unit_number) where kind = 'extra';
create index order_lines_of_extra on order_lines (extra_id) where extra_id is not null;
-- due_now: what has to come in before the seats are confirmed; less than what is due where a deposit is enough.
-- placed_by: who was signed in when it was placed, whoever buys; what is limited by person is counted by it.
alter table orders add code_id uuid references codes (id), add due_now bigint, add placed_by uuid references contacts (id);
create index orders_code on orders (code_id) where code_id is not null;
create index orders_placed_by on orders (placed_by) where placed_by is not null;

do $$
declare
  name text;
begin
  foreach name in array array['extras', 'codes'] loop
    execute format('create trigger kept_of_changes after insert or update or delete on %I for each row
      when (current_setting(''acolyte.change'', true) <> '''') execute function keep_row()', name);
  end loop;
end $$;
