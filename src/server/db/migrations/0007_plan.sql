-- The closing of registration is a wall time of the place, as the other times of an event are: it moves with the date
-- and stays when the zone changes. The instant follows from it.
alter table events add column registration_closes_local timestamp;
update events set registration_closes_local = registration_closes_at at time zone zone
where registration_closes_at is not null;

-- What somebody used is retired, never deleted: answers, messages and seats keep what they belong to.
alter table offers add column removed_at timestamptz;
alter table questions add column removed_at timestamptz;
alter table message_steps add column removed_at timestamptz;
alter table surveys add column removed_at timestamptz;

-- Each part of a plan has a version of its own; a part that was never saved is at 1.
create table plan_parts (
  event_id uuid not null references events (id) on delete cascade,
  part text not null,
  version int not null,
  saved_at timestamptz not null,
  saved_by text not null,
  primary key (event_id, part)
);
