-- When somebody was taken off a shift or gave it back, and what they said.
alter table assignments
  add column dropped_at timestamptz,
  add column dropped_words text not null default '';

-- Who waits for a place on a shift that is full, in the order they came.
create table shift_waits (
  id uuid primary key,
  shift_id uuid not null references shifts (id) on delete cascade,
  contact_id uuid not null references contacts (id),
  made_at timestamptz not null,
  unique (shift_id, contact_id)
);
create index shift_waits_contact on shift_waits (contact_id);

-- A search for somebody who steps in. One at a time of each shift.
create table step_in_searches (
  id uuid primary key,
  shift_id uuid not null references shifts (id) on delete cascade,
  -- Others are asked than those who wait for the shift.
  wide boolean not null,
  begun_at timestamptz not null,
  begun_by text not null,
  ended_at timestamptz,
  ended_how text check (ended_how in ('filled', 'nobody left', 'stopped', 'too late')),
  check ((ended_at is null) = (ended_how is null))
);
create unique index step_in_searches_one on step_in_searches (shift_id) where ended_at is null;
create index step_in_searches_shift on step_in_searches (shift_id);

create table step_in_asks (
  id uuid primary key,
  search_id uuid not null references step_in_searches (id) on delete cascade,
  shift_id uuid not null references shifts (id) on delete cascade,
  contact_id uuid not null references contacts (id),
  -- They waited for it.
  waited boolean not null,
  state text not null check (state in ('asked', 'took it', 'said no', 'lapsed', 'not needed')),
  asked_at timestamptz not null,
  until timestamptz not null,
  answered_at timestamptz
);
create unique index step_in_asks_one on step_in_asks (shift_id, contact_id) where state = 'asked';
create index step_in_asks_due on step_in_asks (until) where state = 'asked';
create index step_in_asks_search on step_in_asks (search_id);
create index step_in_asks_shift on step_in_asks (shift_id);
create index step_in_asks_contact on step_in_asks (contact_id);

-- Which other shifts somebody would have in the place of theirs.
create table swap_wishes (
  assignment_id uuid not null references assignments (id) on delete cascade,
  shift_id uuid not null references shifts (id) on delete cascade,
  said_at timestamptz not null,
  primary key (assignment_id, shift_id)
);
create index swap_wishes_shift on swap_wishes (shift_id);

-- Whether people are asked to step in as soon as somebody gives a shift back.
alter table organization add column asks_to_step_in boolean not null default true;
