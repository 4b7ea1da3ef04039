-- Who is who: keys people are looked for by, what comparisons are weighed by, pairs that wait for a decision, merges.
alter table contacts add column merged_into uuid references contacts (id);
create index contacts_name_trigrams on contacts using gin (name_key gin_trgm_ops);
create index contacts_merged on contacts (merged_into) where merged_into is not null;

create table contact_keys (
  key text not null,
  contact_id uuid not null references contacts (id) on delete cascade,
  primary key (key, contact_id)
);
create index contact_keys_contact on contact_keys (contact_id);

-- Goes up with every statement that changes contacts, so that a dry run knows whether it is still true.
create table contact_version (id int primary key default 1 check (id = 1), n bigint not null default 0);
insert into contact_version default values;
create function contacts_changed() returns trigger language plpgsql as $$
begin
  update contact_version set n = n + 1;
  return null;
end $$;
create trigger contacts_changed after insert or update or delete on contacts
  for each statement execute function contacts_changed();

create table matching_model (
  id int primary key default 1 check (id = 1),
  parameters jsonb,
  estimated_at timestamptz,
  same_from double precision not null default 0.95 check (same_from between 0.5 and 1),
  look_from double precision not null default 0.1 check (look_from between 0.01 and 0.95)
);
insert into matching_model default values;

create table pairs (
  id uuid primary key,
  contact_a uuid not null references contacts (id) on delete cascade,
  contact_b uuid not null references contacts (id) on delete cascade,
  probability double precision not null,
  outcome text not null check (outcome in ('same', 'look')),
  findings jsonb not null,
  held text,
  state text not null default 'open' check (state in ('open', 'same', 'different', 'household')),
  found_by text not null,
  found_at timestamptz not null,
  decided_by uuid references staff (id),
  decided_at timestamptz,
  check (contact_a < contact_b),
  unique (contact_a, contact_b)
);
create index pairs_open on pairs (probability desc) where state = 'open';
create index pairs_b on pairs (contact_b);

create table merges (
  id uuid primary key,
  kept uuid not null references contacts (id),
  merged uuid not null references contacts (id),
  at timestamptz not null,
  actor text not null,
  -- The kept contact's own fields before and after, and which rows of which table came over.
  before jsonb not null,
  after jsonb not null,
  moved jsonb not null,
  undone_at timestamptz
);
create index merges_kept on merges (kept);
create index merges_merged on merges (merged);

-- What an address or a number is for.
alter table contact_emails add column kind text not null default '' check (kind in ('', 'home', 'work', 'other'));
alter table contact_phones add column kind text not null default '' check (kind in ('', 'mobile', 'home', 'work', 'other'));

create table contact_tags (
  contact_id uuid not null references contacts (id) on delete cascade,
  tag text not null check (tag <> ''),
  at timestamptz not null,
  primary key (contact_id, tag)
);
create index contact_tags_tag on contact_tags (tag);
-- A note; with a day it is due it is a task and reaches the Desk.
create table contact_notes (
  id uuid primary key,
  contact_id uuid not null references contacts (id) on delete cascade,
  text text not null check (text <> ''),
  author text not null,
  at timestamptz not null,
  due_on date,
  done_at timestamptz
);
create index contact_notes_contact on contact_notes (contact_id, at);
create index contact_notes_due on contact_notes (due_on) where due_on is not null and done_at is null;

-- Imports are checked in the background and keep the file, so that a check goes on after a restart.
alter table imports drop constraint imports_state_check;
alter table imports add check (state in ('checking', 'checked', 'applied', 'undone', 'cancelled'));
alter table imports add column content bytea;
alter table imports add column likeness text not null default '';
alter table imports add column confidence jsonb not null default '[]';
alter table imports add column choices jsonb not null default '{"policies": {}, "widenConsent": false}';
alter table imports add column overrides jsonb not null default '{}';
alter table imports add column done_rows int not null default 0;
alter table imports add column all_rows int not null default 0;
alter table imports add column checked_version bigint;
alter table imports add column mapping_from uuid references imports (id) on delete set null;
alter table imports add column kept jsonb not null default '[]';
create index imports_likeness on imports (likeness, applied_at);
-- Dry runs made before this version are checked anew when their file is brought again.
delete from imports where state = 'checked';
update import_rows set verdict = 'changes' where verdict = 'known';
alter table import_rows drop constraint import_rows_verdict_check;
alter table import_rows add check (verdict in ('new', 'changes', 'same', 'look', 'rejected'));
alter table import_rows add column changes jsonb not null default '[]';
alter table import_rows add column excluded boolean not null default false;
alter table import_rows add column household_of_line int;
alter table import_rows add column probability double precision;
-- Of the person as read: the same row, brought again, is known by it.
alter table import_rows add column fingerprint text;
create index import_rows_fingerprint on import_rows (fingerprint) where contact_id is not null;
create index import_rows_verdict on import_rows (import_id, verdict, line);

-- Consent is given for a topic by a channel.
alter table consents add column channel text not null default 'email' check (channel in ('email', 'text message'));
drop index consents_contact;
create index consents_contact on consents (contact_id, topic, channel, at desc);
-- An erased person stays as a shell without a name, so that money and counts stay true.
alter table contacts add column erased_at timestamptz;

-- A person's own page, and the changes asked for there that contradict what staff have.
alter table links drop constraint links_kind_check;
alter table links add check (kind in ('manage', 'crew', 'survey', 'preview', 'own'));
create table proposals (
  id uuid primary key,
  contact_id uuid not null references contacts (id) on delete cascade,
  field text not null check (field in ('given', 'family', 'birthDate', 'street', 'postalCode')),
  before text not null,
  after text,
  at timestamptz not null,
  state text not null check (state in ('open', 'taken', 'left', 'replaced')),
  decided_by uuid references staff (id),
  decided_at timestamptz
);
create unique index proposals_open on proposals (contact_id, field) where state = 'open';

-- Who took part in what, one row a person and event, kept by the database itself: segments count these instead of seats.
create table participation (
  contact_id uuid not null references contacts (id) on delete cascade,
  event_id uuid not null references events (id) on delete cascade,
  registered boolean not null,
  attended boolean not null,
  missed boolean not null,
  last_seen timestamptz,
  primary key (contact_id, event_id)
);
create index participation_seen on participation (last_seen) where last_seen is not null;
create function count_participation(contacts uuid[], events uuid[]) returns void language sql as $$
  insert into participation (contact_id, event_id, registered, attended, missed, last_seen)
    select * from (
      select k.contact_id, k.event_id,
        exists (select 1 from registrations r where r.contact_id = k.contact_id and r.event_id = k.event_id and r.state = 'confirmed') as registered,
        exists (select 1 from attendance a where a.contact_id = k.contact_id and a.event_id = k.event_id and a.state in ('arrived', 'left')) as attended,
        exists (select 1 from attendance a where a.contact_id = k.contact_id and a.event_id = k.event_id and a.state = 'missed') as missed,
        (select max(arrived_at) from attendance a where a.contact_id = k.contact_id and a.event_id = k.event_id) as last_seen
      from (select distinct u.contact_id, u.event_id from unnest(contacts, events) as u (contact_id, event_id)
        where u.contact_id is not null) k) p
    where p.registered or p.attended or p.missed or p.last_seen is not null
    on conflict (contact_id, event_id) do update set registered = excluded.registered, attended = excluded.attended,
      missed = excluded.missed, last_seen = excluded.last_seen;
  delete from participation p using unnest(contacts, events) as k (contact_id, event_id)
    where p.contact_id = k.contact_id and p.event_id = k.event_id
      and not exists (select 1 from registrations r where r.contact_id = k.contact_id and r.event_id = k.event_id and r.state = 'confirmed')
      and not exists (select 1 from attendance a where a.contact_id = k.contact_id and a.event_id = k.event_id
        and (a.state <> 'expected' or a.arrived_at is not null));
$$;
create function participation_inserted() returns trigger language plpgsql as $$
begin
  perform count_participation(array_agg(contact_id), array_agg(event_id)) from changed where contact_id is not null having count(*) > 0;
  return null;
end $$;
create function participation_deleted() returns trigger language plpgsql as $$
begin
  perform count_participation(array_agg(contact_id), array_agg(event_id)) from gone where contact_id is not null having count(*) > 0;
  return null;
end $$;
-- Only what matters here counts as a change: a pass code or a reason does not.
create function registrations_updated() returns trigger language plpgsql as $$
begin
  perform count_participation(array_agg(contact_id), array_agg(event_id)) from (
    (select id, contact_id, event_id, state from changed except select id, contact_id, event_id, state from gone)
    union all (select id, contact_id, event_id, state from gone except select id, contact_id, event_id, state from changed)) d
    where contact_id is not null having count(*) > 0;
  return null;
end $$;
create function attendance_updated() returns trigger language plpgsql as $$
begin
  perform count_participation(array_agg(contact_id), array_agg(event_id)) from (
    (select registration_id, contact_id, event_id, state, arrived_at from changed
      except select registration_id, contact_id, event_id, state, arrived_at from gone)
    union all (select registration_id, contact_id, event_id, state, arrived_at from gone
      except select registration_id, contact_id, event_id, state, arrived_at from changed)) d
    where contact_id is not null having count(*) > 0;
  return null;
end $$;
create trigger registrations_counted_in after insert on registrations referencing new table as changed
  for each statement execute function participation_inserted();
create trigger registrations_counted_up after update on registrations referencing old table as gone new table as changed
  for each statement execute function registrations_updated();
create trigger registrations_counted_out after delete on registrations referencing old table as gone
  for each statement execute function participation_deleted();
create trigger attendance_counted_in after insert on attendance referencing new table as changed
  for each statement execute function participation_inserted();
create trigger attendance_counted_up after update on attendance referencing old table as gone new table as changed
  for each statement execute function attendance_updated();
create trigger attendance_counted_out after delete on attendance referencing old table as gone
  for each statement execute function participation_deleted();
select count_participation(array_agg(contact_id), array_agg(event_id)) from (
  select contact_id, event_id from registrations union select contact_id, event_id from attendance) x where contact_id is not null
  having count(*) > 0;

-- Segments: questions over history. A frozen one keeps who was in it.
create table segments (
  id uuid primary key,
  name text not null check (name <> ''),
  segment jsonb not null,
  frozen_at timestamptz,
  created_by uuid references staff (id),
  created_at timestamptz not null,
  updated_at timestamptz not null
);
create table segment_members (
  segment_id uuid not null references segments (id) on delete cascade,
  contact_id uuid not null references contacts (id) on delete cascade,
  primary key (segment_id, contact_id)
);
create index segment_members_contact on segment_members (contact_id);
create index contacts_household on contacts (household_id) where household_id is not null;
create index assignments_served on assignments (contact_id) where state = 'served';
