-- Calls for volunteers: for one event, for a season, or standing; and what people say who want to help.
create table calls (
  id uuid primary key,
  slug text not null unique,
  -- For an event; without one for the days from the first to the last, or standing where there are none.
  event_id uuid references events (id) on delete cascade,
  from_on date,
  until_on date,
  title jsonb not null,
  words jsonb not null,
  asks text[] not null,
  open boolean not null,
  version int not null default 1,
  made_at timestamptz not null,
  check (event_id is null or from_on is null),
  check ((from_on is null) = (until_on is null)),
  check (from_on <= until_on)
);
create unique index calls_event on calls (event_id) where event_id is not null;
create table call_roles (
  call_id uuid not null references calls (id) on delete cascade,
  role_id uuid not null references roles (id) on delete cascade,
  position int not null,
  primary key (call_id, role_id)
);

create table applications (
  id uuid primary key,
  call_id uuid not null references calls (id) on delete cascade,
  contact_id uuid not null references contacts (id),
  state text not null check (state in ('invited', 'new', 'accepted', 'declined', 'resting')),
  -- What they said; nothing as long as they are only invited.
  said jsonb,
  -- What somebody said in their name without their own link: it takes nothing away until the crew lead takes it over.
  again jsonb,
  -- What the crew lead asks them, and what they answer.
  question text not null default '',
  answer text not null default '',
  language text not null check (language in ('en', 'fr')),
  applied_at timestamptz,
  changed_at timestamptz not null,
  decided_at timestamptz,
  decided_by text,
  version int not null default 1,
  unique (call_id, contact_id),
  check ((state = 'invited') = (said is null))
);
create index applications_contact on applications (contact_id);

create table application_files (
  id uuid primary key,
  call_id uuid not null references calls (id) on delete cascade,
  application_id uuid references applications (id) on delete cascade,
  name text not null check (length(name) between 1 and 200),
  media_type text not null,
  content bytea not null check (length(content) between 1 and 4000000),
  at timestamptz not null
);
create index application_files_loose on application_files (at) where application_id is null;
create index application_files_of on application_files (application_id) where application_id is not null;
create index application_files_call on application_files (call_id);

-- The paper by which somebody showed that they have it.
alter table held_skills add column file_id uuid references application_files (id) on delete set null;
create index held_skills_file on held_skills (file_id) where file_id is not null;

-- Who serves with whom, and who does not.
create table crew_pairs (
  id uuid primary key,
  contact_id uuid not null references contacts (id) on delete cascade,
  other_id uuid not null references contacts (id) on delete cascade,
  kind text not null check (kind in ('together', 'apart')),
  said_by text not null,
  said_at timestamptz not null,
  check (contact_id <> other_id)
);
create unique index crew_pairs_once on crew_pairs (least(contact_id, other_id), greatest(contact_id, other_id));
create index crew_pairs_other on crew_pairs (other_id);
create index crew_pairs_contact on crew_pairs (contact_id);

alter table links drop constraint links_kind_check;
alter table links add constraint links_kind_check
  check (kind in ('manage', 'crew', 'survey', 'preview', 'own', 'seat', 'feed', 'invited', 'gift', 'pledge', 'receipt', 'out', 'follow', 'application'));
