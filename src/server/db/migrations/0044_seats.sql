-- Views of the seats of an event are kept as those of the contacts are.
alter table views drop constraint views_place_check;
alter table views add constraint views_place_check check (place in ('contacts', 'registrations'));
alter table views add column event_id uuid references events (id) on delete cascade;
alter table views add constraint views_event_check check ((place = 'registrations') = (event_id is not null));
drop index views_name;
create unique index views_name on views (place, coalesce(event_id, '00000000-0000-0000-0000-000000000000'),
  coalesce(staff_id, '00000000-0000-0000-0000-000000000000'), lower(name));

-- Where people come from: a link of its own for a poster, a newsletter, a partner.
create table sources (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  name text not null check (name <> ''),
  -- As it stands in the address.
  code text not null check (code ~ '^[a-z0-9]{6}$'),
  created_at timestamptz not null,
  -- Its link goes on leading to the event, and counting nothing more as its own.
  stopped_at timestamptz,
  unique (event_id, code)
);
create unique index sources_name on sources (event_id, lower(name)) where stopped_at is null;
-- How often the page was looked at, and a booking begun, by day; nothing of whoever did.
create table page_views (
  event_id uuid not null references events (id) on delete cascade,
  source_id uuid references sources (id) on delete cascade,
  day date not null,
  seen int not null default 0,
  begun int not null default 0
);
create unique index page_views_day on page_views (event_id, coalesce(source_id, '00000000-0000-0000-0000-000000000000'), day);
alter table orders add column source_id uuid references sources (id) on delete set null;
create index orders_source on orders (source_id) where source_id is not null;

-- What was laid on a line that gave way to another one, as a unit at another price, goes over to that: taken off here and laid there.
alter table allocations add column moved boolean not null default false;

-- Seats that nobody is named for, which are asked about after every write.
drop index orders_not_chased;
create index registrations_unnamed on registrations (order_id) where state = 'confirmed' and given_name = '' and family_name = '';
