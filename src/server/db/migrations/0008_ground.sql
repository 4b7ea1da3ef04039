-- Who of several processes does work that one may do at a time, until when.
create table leases (
  name text primary key,
  holder uuid not null,
  until timestamptz not null
);

-- Nothing stands in it: transactions of a server take a lock on it, beside each other or alone.
create table turnstile ();

-- What the secret that links are made from leaves behind, so that a process with another secret is refused.
create table secret_mark (
  id int primary key default 1 check (id = 1),
  mark text not null
);

-- Who took part is counted again only where something that counts changed: a confirmed registration, an attendance beyond
-- “expected”. A seat that is held, or a guest who is awaited, counts for nothing yet.
create function registrations_inserted() returns trigger language plpgsql as $$
begin
  perform count_participation(array_agg(contact_id), array_agg(event_id)) from changed
    where contact_id is not null and state = 'confirmed' having count(*) > 0;
  return null;
end $$;
create function attendance_inserted() returns trigger language plpgsql as $$
begin
  perform count_participation(array_agg(contact_id), array_agg(event_id)) from changed
    where contact_id is not null and (state <> 'expected' or arrived_at is not null) having count(*) > 0;
  return null;
end $$;
create or replace function registrations_updated() returns trigger language plpgsql as $$
begin
  perform count_participation(array_agg(contact_id), array_agg(event_id)) from (
    (select id, contact_id, event_id from changed where state = 'confirmed'
      except select id, contact_id, event_id from gone where state = 'confirmed')
    union all (select id, contact_id, event_id from gone where state = 'confirmed'
      except select id, contact_id, event_id from changed where state = 'confirmed')) d
    where contact_id is not null having count(*) > 0;
  return null;
end $$;
create or replace function attendance_updated() returns trigger language plpgsql as $$
begin
  perform count_participation(array_agg(contact_id), array_agg(event_id)) from (
    (select registration_id, contact_id, event_id, state, arrived_at from changed where state <> 'expected' or arrived_at is not null
      except select registration_id, contact_id, event_id, state, arrived_at from gone)
    union all (select registration_id, contact_id, event_id, state, arrived_at from gone where state <> 'expected' or arrived_at is not null
      except select registration_id, contact_id, event_id, state, arrived_at from changed)) d
    where contact_id is not null having count(*) > 0;
  return null;
end $$;
drop trigger registrations_counted_in on registrations;
drop trigger attendance_counted_in on attendance;
drop function participation_inserted;
create trigger registrations_counted_in after insert on registrations referencing new table as changed
  for each statement execute function registrations_inserted();
create trigger attendance_counted_in after insert on attendance referencing new table as changed
  for each statement execute function attendance_inserted();

-- How somebody is spoken of.
alter table contacts add column pronouns text;
