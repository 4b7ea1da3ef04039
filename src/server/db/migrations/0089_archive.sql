-- Another one whenever seats or attendance of an event change, so that what is kept of it in memory is read anew; never the same twice, also not after a backup was put back.
create table event_touched (
  event_id uuid primary key references events (id) on delete cascade,
  version uuid not null default gen_random_uuid()
);
create function touch_events(ids uuid[]) returns void language sql as $$
  insert into event_touched as t (event_id)
    select distinct x.id from unnest(ids) as x (id) where exists (select 1 from events e where e.id = x.id) order by x.id
  on conflict (event_id) do update set version = gen_random_uuid()
$$;
create function events_touched_in() returns trigger language plpgsql as $$
begin
  perform touch_events(array_agg(event_id)) from changed having count(*) > 0;
  return null;
end $$;
create function events_touched_out() returns trigger language plpgsql as $$
begin
  perform touch_events(array_agg(event_id)) from gone having count(*) > 0;
  return null;
end $$;
create function seats_touched_up() returns trigger language plpgsql as $$
begin
  perform touch_events(array_agg(event_id)) from (
    (select id, event_id, state, contact_id, ended_at, walk_in from changed except select id, event_id, state, contact_id, ended_at, walk_in from gone)
    union all
    (select id, event_id, state, contact_id, ended_at, walk_in from gone except select id, event_id, state, contact_id, ended_at, walk_in from changed)) d
    having count(*) > 0;
  return null;
end $$;
create function attendance_touched_up() returns trigger language plpgsql as $$
begin
  perform touch_events(array_agg(event_id)) from (
    (select registration_id, event_id, state from changed except select registration_id, event_id, state from gone)
    union all
    (select registration_id, event_id, state from gone except select registration_id, event_id, state from changed)) d
    having count(*) > 0;
  return null;
end $$;
create trigger seats_touched_in after insert on registrations referencing new table as changed
  for each statement execute function events_touched_in();
create trigger seats_touched_up after update on registrations referencing old table as gone new table as changed
  for each statement execute function seats_touched_up();
create trigger seats_touched_out after delete on registrations referencing old table as gone
  for each statement execute function events_touched_out();
create trigger attendance_touched_in after insert on attendance referencing new table as changed
  for each statement execute function events_touched_in();
create trigger attendance_touched_up after update on attendance referencing old table as gone new table as changed
  for each statement execute function attendance_touched_up();
create trigger attendance_touched_out after delete on attendance referencing old table as gone
  for each statement execute function events_touched_out();
insert into event_touched (event_id) select distinct event_id from registrations;
-- Hours served and gifts by day, read in the order of days.
create index shifts_served on assignments (shift_id) where state = 'served';
