-- Who speaks, who pays, and what happens when: for events that want it.
create table speakers (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  contact_id uuid references contacts (id),
  name text not null,
  -- Who they are, in a line, by language.
  line jsonb not null default '{"en": ""}',
  picture_id uuid references pictures (id),
  position int not null,
  removed_at timestamptz
);
create index speakers_event on speakers (event_id);
create index speakers_contact on speakers (contact_id) where contact_id is not null;

create table sponsors (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  contact_id uuid references contacts (id),
  name text not null,
  level text not null default '',
  address text not null default '',
  picture_id uuid references pictures (id),
  position int not null,
  removed_at timestamptz
);
create index sponsors_event on sponsors (event_id);
create index sponsors_contact on sponsors (contact_id) where contact_id is not null;

create table agenda_sessions (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  kind text not null check (kind in ('session', 'break')),
  title jsonb not null,
  about jsonb not null default '{"en": ""}',
  -- The day of the event, from 1, and wall times: they move with its date. All three, or none while it has no place yet.
  day int check (day between 1 and 60),
  begins text check (begins ~ '^([01][0-9]|2[0-3]):[0-5][0-9]$'),
  ends text check (ends ~ '^([01][0-9]|2[0-3]):[0-5][0-9]$'),
  track_id uuid,
  room_id uuid references rooms (id),
  capacity int check (capacity between 1 and 100000),
  sign_up boolean not null default false,
  speaker_ids uuid[] not null default '{}',
  position int not null,
  removed_at timestamptz,
  check (num_nulls(day, begins, ends) in (0, 3))
);
create index agenda_sessions_event on agenda_sessions (event_id);

-- Seats at sessions: a person's seat at the event, and the sessions they chose.
create table session_seats (
  session_id uuid not null references agenda_sessions (id) on delete cascade,
  registration_id uuid not null references registrations (id) on delete cascade,
  at timestamptz not null,
  primary key (session_id, registration_id)
);
create index session_seats_registration on session_seats (registration_id);

create table session_proposals (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  title text not null,
  about text not null,
  minutes int not null check (minutes between 5 and 600),
  speaker_name text not null,
  speaker_line text not null default '',
  email text not null,
  contact_id uuid references contacts (id),
  state text not null default 'new' check (state in ('new', 'accepted', 'declined')),
  session_id uuid references agenda_sessions (id) on delete set null,
  words text not null default '',
  proposed_at timestamptz not null,
  decided_at timestamptz,
  decided_by text
);
create index session_proposals_event on session_proposals (event_id);
create index session_proposals_contact on session_proposals (contact_id) where contact_id is not null;

alter table events
  -- [{ id, name: { en, fr } }]
  add column tracks jsonb not null default '[]',
  -- { closes: date or null, words: { en, fr } }; null where nobody is asked to propose sessions.
  add column call jsonb;
