-- Contacts are looked for from these tables whenever one is merged, erased or taken back with its import.
create index payments_contact on payments (contact_id) where contact_id is not null;
create index staff_contact on staff (contact_id) where contact_id is not null;
create index survey_asks_contact on survey_asks (contact_id);

-- An organization is a contact too: its name stands in family_name, and people do something there.
alter table contacts add column kind text not null default 'person' check (kind in ('person', 'organization'));
-- Languages somebody reads besides the one they are written to in.
alter table contacts add column languages text[] not null default '{}';
-- The day from which somebody no longer lives at the address, an email or a telephone is no longer theirs. What ended is
-- kept for recognizing people, and used for nothing else.
alter table contacts add column moved_on date;
alter table contact_emails add column ended_on date;
alter table contact_phones add column ended_on date;

create table affiliations (
  id uuid primary key,
  contact_id uuid not null references contacts (id) on delete cascade,
  organization_id uuid not null references contacts (id) on delete cascade,
  role text not null default '',
  since date,
  until date,
  created_at timestamptz not null,
  check (contact_id <> organization_id),
  check (until >= since)
);
create unique index affiliations_once on affiliations (contact_id, organization_id, lower(role)) where until is null;
create index affiliations_organization on affiliations (organization_id);

-- Membership from a day to a day, both included; without an end it goes on. `since` stays as it was read.
alter table memberships add column starts_on date;
alter table memberships add column ends_on date;
alter table memberships add check (ends_on >= starts_on);
create function day_of(text text) returns date language plpgsql immutable as $$
begin
  return case when text ~ '^(19|20)\d\d$' then make_date(text::int, 1, 1) when text ~ '^\d{4}-\d{2}-\d{2}$' then text::date end;
exception when others then return null;
end $$;
update memberships set starts_on = day_of(since);
drop function day_of;

-- What somebody does in a unit.
create table unit_people (
  id uuid primary key,
  unit_id uuid not null references units (id) on delete cascade,
  contact_id uuid not null references contacts (id) on delete cascade,
  role text not null check (role <> ''),
  since date,
  until date,
  created_at timestamptz not null,
  check (until >= since)
);
create unique index unit_people_once on unit_people (unit_id, contact_id, lower(role)) where until is null;
create index unit_people_contact on unit_people (contact_id);

-- Fields an organization adds of its own.
create table custom_fields (
  id uuid primary key,
  name text not null check (name <> ''),
  kind text not null check (kind in ('text', 'number', 'date', 'yes or no', 'one of')),
  choices text[] not null default '{}',
  position int not null,
  created_at timestamptz not null,
  check ((kind = 'one of') = (cardinality(choices) > 0))
);
create unique index custom_fields_name on custom_fields (lower(name));
-- The value as text: dates as 2026-07-09, numbers with a point, "yes" and "no".
create table custom_values (
  contact_id uuid not null references contacts (id) on delete cascade,
  field_id uuid not null references custom_fields (id) on delete cascade,
  value text not null check (value <> ''),
  primary key (contact_id, field_id)
);
create index custom_values_field on custom_values (field_id, lower(value));

create table contact_photos (
  contact_id uuid primary key references contacts (id) on delete cascade,
  media_type text not null check (media_type in ('image/jpeg', 'image/png', 'image/webp')),
  content bytea not null check (octet_length(content) <= 400000),
  at timestamptz not null
);

-- A filter of a list under a name, one's own or everybody's.
create table views (
  id uuid primary key,
  place text not null check (place in ('contacts')),
  name text not null check (name <> ''),
  staff_id uuid references staff (id) on delete cascade,
  filter jsonb not null,
  created_at timestamptz not null
);
create unique index views_name on views (place, coalesce(staff_id, '00000000-0000-0000-0000-000000000000'), lower(name));

-- A message to many contacts at once; each copy is a message of its own.
create table mailings (
  id uuid primary key,
  name text not null check (name <> ''),
  topic text not null,
  subject text not null check (subject <> ''),
  body text not null check (body <> ''),
  created_by uuid references staff (id),
  created_at timestamptz not null
);
alter table messages add column mailing_id uuid references mailings (id);
create index messages_mailing on messages (mailing_id) where mailing_id is not null;

-- The first event that an event goes back to by copying: what happens again and again has one.
alter table events add column first_of uuid references events (id) on delete set null;
with recursive way as (
  select id, copied_from, id as first, 0 as step from events where copied_from is null
  union all select e.id, e.copied_from, w.first, step + 1 from events e join way w on e.copied_from = w.id where step < 200)
update events e set first_of = w.first from way w where w.id = e.id;

-- Asked about the newsletter only, until now.
update segments set segment = replace(replace(segment::text, '"ask": "newsletter"', '"ask": "consent", "topic": "newsletter", "channel": "email"'),
  '"ask": "member"', '"ask": "member", "on": "today"')::jsonb;
-- What a merge copied stands by table now.
update merges set moved = (moved - 'tags') || jsonb_build_object('copied', jsonb_build_object('contact_tags', coalesce(moved->'tags', '[]')));
-- A segment put together by hand has members and no questions.
alter table segments add column by_hand boolean not null default false;
-- Segments count over all history: by event from these indexes alone, and without regard to events from the totals.
create index participation_registered on participation (event_id, contact_id) where registered;
create index participation_attended on participation (event_id, contact_id) where attended;
create index participation_missed on participation (event_id, contact_id) where missed;
create index contacts_here on contacts (id) where merged_into is null and erased_at is null;
create table contact_totals (
  contact_id uuid primary key references contacts (id) on delete cascade,
  registered int not null,
  attended int not null,
  missed int not null,
  last_seen timestamptz
);
-- Counts anew who took part in what, for these contacts at these events; the totals follow only where that changed.
create or replace function count_participation(contacts uuid[], events uuid[]) returns void language plpgsql as $$
declare
  changed uuid[];
begin
  with k as (
    select distinct u.contact_id, u.event_id from unnest(contacts, events) as u (contact_id, event_id) where u.contact_id is not null),
  a as (
    select k.contact_id, k.event_id, bool_or(x.state in ('arrived', 'left')) as attended, bool_or(x.state = 'missed') as missed,
      max(x.arrived_at) as last_seen
    from k join attendance x on x.contact_id = k.contact_id and x.event_id = k.event_id group by k.contact_id, k.event_id),
  found as (
    select k.contact_id, k.event_id,
      exists (select 1 from registrations r where r.contact_id = k.contact_id and r.event_id = k.event_id and r.state = 'confirmed') as registered,
      coalesce(a.attended, false) as attended, coalesce(a.missed, false) as missed, a.last_seen
    from k left join a on a.contact_id = k.contact_id and a.event_id = k.event_id),
  gone as (
    delete from participation p using found f where p.contact_id = f.contact_id and p.event_id = f.event_id
      and not (f.registered or f.attended or f.missed or f.last_seen is not null) returning p.contact_id),
  put as (
    insert into participation as p (contact_id, event_id, registered, attended, missed, last_seen)
      select contact_id, event_id, registered, attended, missed, last_seen from found
      where registered or attended or missed or last_seen is not null
      on conflict (contact_id, event_id) do update set registered = excluded.registered, attended = excluded.attended,
        missed = excluded.missed, last_seen = excluded.last_seen
        where (p.registered, p.attended, p.missed, p.last_seen)
          is distinct from (excluded.registered, excluded.attended, excluded.missed, excluded.last_seen)
      returning p.contact_id)
  select array_agg(distinct x.contact_id) into changed from (select contact_id from gone union all select contact_id from put) x;
  if changed is null then
    return;
  end if;
  delete from contact_totals t where t.contact_id = any(changed)
    and not exists (select 1 from participation p where p.contact_id = t.contact_id);
  insert into contact_totals as t (contact_id, registered, attended, missed, last_seen)
    select p.contact_id, count(*) filter (where p.registered), count(*) filter (where p.attended),
      count(*) filter (where p.missed), max(p.last_seen)
    from participation p where p.contact_id = any(changed) group by p.contact_id
    on conflict (contact_id) do update set registered = excluded.registered, attended = excluded.attended,
      missed = excluded.missed, last_seen = excluded.last_seen;
end $$;
insert into contact_totals (contact_id, registered, attended, missed, last_seen)
  select contact_id, count(*) filter (where registered), count(*) filter (where attended),
    count(*) filter (where missed), max(last_seen) from participation group by contact_id;
-- A wish may be about one membership: its level, or the day it ends.
alter table proposals add column membership_id uuid references memberships (id) on delete cascade;
alter table proposals drop constraint proposals_field_check;
alter table proposals add check (field in ('given', 'family', 'birthDate', 'street', 'postalCode', 'level', 'endsOn'));
alter table proposals add check ((membership_id is not null) = (field in ('level', 'endsOn')));
drop index proposals_open;
create unique index proposals_open on proposals (contact_id, field, coalesce(membership_id, '00000000-0000-0000-0000-000000000000'))
  where state = 'open';
-- A dry run of the version before says less of a row than is known by now: it is worked out again.
update imports set state = 'checking', done_rows = 0 where state = 'checked';
