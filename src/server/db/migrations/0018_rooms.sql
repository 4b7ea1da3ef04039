-- Rooms of a place, when it is closed, and who has which room when. A room is never taken twice unless somebody decides it.
create extension if not exists btree_gist;

alter table venues
  -- Several events may be there at once: open ground, a stretch of water.
  add column shared boolean not null default false,
  -- { weekdays: [0 to 6, Sunday first], dates: [{ from, to, why }] }
  add column closed jsonb not null default '{"weekdays": [], "dates": []}';

create table rooms (
  id uuid primary key,
  venue_id uuid not null references venues (id) on delete cascade,
  name text not null check (length(name) between 1 and 80),
  capacity int check (capacity between 1 and 100000),
  -- [{ name, capacity }]: how the room can be set up, and how many it holds then.
  layouts jsonb not null default '[]',
  position int not null,
  retired_at timestamptz
);
create unique index rooms_name on rooms (venue_id, lower(name)) where retired_at is null;

alter table events
  add column room_id uuid references rooms (id),
  add column layout text not null default '',
  -- [{ id, title }]: events it may share its place with, because somebody decided so.
  add column beside jsonb not null default '[]';
create index events_room on events (room_id) where room_id is not null;

create table bookings (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  venue_id uuid not null references venues (id) on delete cascade,
  -- A room, or the place itself where it is taken as a whole; that takes every room of it too.
  space_id uuid not null,
  during tstzrange not null check (not isempty(during)),
  -- Somebody decided that it may be taken beside others.
  decided boolean not null default false,
  constraint room_taken_once exclude using gist (space_id with =, event_id with <>, during with &&) where (not decided)
);
create index bookings_event on bookings (event_id);
create index bookings_venue on bookings (venue_id);

-- What stands in the plans so far: what is at one place at one time was decided by whoever planned it.
insert into bookings (id, event_id, venue_id, space_id, during, decided)
select gen_random_uuid(), e.id, e.venue_id, e.venue_id, x.during, exists (
  select 1 from events o where o.id <> e.id and o.venue_id = e.venue_id and o.starts_at is not null and not o.is_template
    and o.state not in ('called off', 'shelved')
    and tstzrange(least(o.doors_at, o.starts_at), greatest(coalesce(o.ends_at, o.starts_at + interval '2 hours'), o.starts_at + interval '1 minute')) && x.during)
from events e
cross join lateral (select tstzrange(least(e.doors_at, e.starts_at), greatest(coalesce(e.ends_at, e.starts_at + interval '2 hours'), e.starts_at + interval '1 minute')) as during) x
where e.venue_id is not null and e.starts_at is not null and not e.is_template and e.state not in ('called off', 'shelved');
