-- Who organizes an event, what only seat-holders are given, a goal that moves on, and how its page looks.
alter table events
  -- { how: 'form' or 'shown', name, email, phone }; null where nobody is named.
  add column organizer jsonb,
  -- [{ id, label: { en, fr }, address or null, fileId or null }]
  add column day_files jsonb not null default '[]',
  -- Numbers of people to reach, one after the other.
  add column goal int[] not null default '{}',
  add column look jsonb not null default '{"style": "scroll", "theme": "reader"}';

create table files (
  id uuid primary key,
  name text not null check (length(name) between 1 and 200),
  media_type text not null,
  content bytea not null check (length(content) between 1 and 8000000),
  digest text not null unique,
  brought_by uuid references staff (id) on delete set null,
  at timestamptz not null
);
