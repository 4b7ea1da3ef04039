-- Days and sessions, corrections, lists from elsewhere, handing children over, certificates, closing and disputes.
alter table attendance_marks
  -- The session at whose door it was made; null at the doors of the event.
  add column session_id uuid references agenda_sessions (id) on delete cascade,
  -- Why it was marked by hand, where it was a correction.
  add column why text not null default '',
  -- To whom a child was handed over, and how that was known.
  add column handed_to text not null default '',
  -- The list it came with.
  add column import_id uuid;
create index attendance_marks_session on attendance_marks (session_id) where session_id is not null;
create index attendance_marks_import on attendance_marks (import_id) where import_id is not null;

-- How the doors of an event are kept: { goHome, handover, most, certificate: { share, of } or null }.
alter table events
  add column doors jsonb not null default '{"goHome": false, "handover": false, "most": null, "certificate": null}',
  -- The last night between two of its days that is behind.
  add column night_at timestamptz,
  -- Until when attendance that is locked can be changed all the same.
  add column attendance_open_until timestamptz;
alter table registrations add column tag_printed_at timestamptz;
-- So many days after an event its attendance stands as it is.
alter table organization add column attendance_days int not null default 30 check (attendance_days between 1 and 3650);

-- The other guardian signs by a link of its own, which the first one passes on.
-- A shared device at the doors, on which people check themselves in and sign: a link of its own, which hangs on no wall.
alter table links drop constraint links_kind_check;
alter table links add constraint links_kind_check
  check (kind in ('manage', 'crew', 'survey', 'preview', 'own', 'seat', 'feed', 'invited', 'gift', 'pledge', 'receipt', 'out', 'follow', 'application', 'signed', 'here', 'kiosk', 'cosign'));

-- Lists of who was there that came as files.
create table attendance_imports (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  session_id uuid references agenda_sessions (id) on delete cascade,
  file_name text not null,
  -- What it says, so that nobody takes it twice.
  sha256 text not null,
  rows int not null,
  people int not null,
  staff_id uuid references staff (id),
  actor text not null,
  at timestamptz not null,
  undone_at timestamptz
);
create index attendance_imports_event on attendance_imports (event_id);
create unique index attendance_imports_once on attendance_imports (event_id, coalesce(session_id, event_id), sha256) where undone_at is null;
alter table attendance_marks add constraint attendance_marks_import_id_fkey foreign key (import_id) references attendance_imports (id);

-- Somebody says that what is kept of their attendance is wrong.
create table attendance_disputes (
  id uuid primary key,
  registration_id uuid not null references registrations (id) on delete cascade,
  event_id uuid not null references events (id) on delete cascade,
  says text not null check (says in ('came', 'did not come', 'other times')),
  words text not null,
  -- Who said so: whoever booked, or the guest of the seat.
  by text not null check (by in ('buyer', 'guest')),
  language text not null check (language in ('en', 'fr')),
  at timestamptz not null,
  -- What the team says to it.
  outcome text check (outcome in ('corrected', 'kept')),
  answer text not null default '',
  answered_at timestamptz,
  answered_by text not null default ''
);
create unique index attendance_disputes_open on attendance_disputes (registration_id) where answered_at is null;
create index attendance_disputes_event on attendance_disputes (event_id);
