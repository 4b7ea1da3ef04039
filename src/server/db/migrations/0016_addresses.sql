-- Addresses that events had before: they lead on to the event.
create table event_addresses (
  slug text primary key,
  event_id uuid not null references events (id) on delete cascade,
  since timestamptz not null
);
