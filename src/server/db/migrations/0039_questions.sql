-- More that a question can ask: numbers, dates, consent, files; of a contact's own record; shown by what was answered before.
alter table questions drop constraint questions_kind_check;
alter table questions
  add check (kind in ('text', 'long text', 'number', 'date', 'yes or no', 'one of', 'several of', 'consent', 'file')),
  add help jsonb not null default '{"en": ""}',
  add shown_if jsonb,
  add least double precision,
  add most double precision,
  add keeps text,
  add seen_by text not null default 'organizers' check (seen_by in ('organizers', 'door', 'name tag')),
  add sensitive boolean not null default false;
-- What the door was shown was about health, and only who may read that did.
update questions set seen_by = 'door', sensitive = true where at_door;
alter table questions drop column at_door;
create index questions_sensitive on questions (event_id) where sensitive;

-- Whoever booked was always asked for a telephone: where people can still register, they are as before.
insert into questions (id, event_id, position, scope, kind, prompt, keeps)
  select gen_random_uuid(), id, 100, 'order', 'text', '{"en": "Telephone", "fr": "Téléphone"}', 'phone' from events
  where state in ('draft', 'in clearance', 'cleared', 'open');

-- Days after the end of an event until sensitive answers are deleted; and when that is to be looked at, as long as there are some.
alter table events add forget_days int not null default 30 check (forget_days between 0 and 3650);
create index answers_question on answers (question_id);

-- A file that answers a question; one that no answer names is let go of after a day.
create table answer_files (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  name text not null check (length(name) between 1 and 200),
  media_type text not null,
  content bytea not null check (length(content) between 1 and 4000000),
  order_id uuid references orders (id) on delete cascade,
  at timestamptz not null
);
create index answer_files_loose on answer_files (at) where order_id is null;
create index answer_files_order on answer_files (order_id) where order_id is not null;
create index answer_files_event on answer_files (event_id);

-- Questions that are asked again and again, kept by name.
create table question_sets (
  id uuid primary key,
  name text not null check (name <> ''),
  questions jsonb not null,
  made_at timestamptz not null
);
create unique index question_sets_name on question_sets (lower(name));

-- What somebody from outside answers of a contact we know, beyond address and birth date.
alter table proposals add field_id uuid references custom_fields (id) on delete cascade;
alter table proposals drop constraint proposals_field_check;
alter table proposals
  add check (field in ('given', 'family', 'birthDate', 'street', 'postalCode', 'level', 'endsOn', 'email', 'phone', 'guardian', 'language', 'pronouns', 'dietary', 'custom')),
  add check ((field_id is not null) = (field = 'custom'));
drop index proposals_open;
create unique index proposals_open on proposals (contact_id, field, coalesce(membership_id, other_contact_id, field_id, '00000000-0000-0000-0000-000000000000'),
  (case when field in ('email', 'phone') then after else '' end)) where state = 'open';
create index proposals_field on proposals (field_id) where field_id is not null;
