-- Shifts that are filled all at once: what was proposed, and how far it is while it is worked out. One an event.
create table roster_runs (
  id uuid primary key,
  event_id uuid not null unique references events (id) on delete cascade,
  state text not null check (state in ('working', 'done', 'failed')),
  asked_by text not null,
  asked_at timestamptz not null,
  -- Seconds it may take.
  seconds int not null check (seconds between 1 and 600),
  -- When whoever works it out was last heard of, by the clock of the machine; and whether it is to end with what it has.
  seen_at timestamptz not null,
  stop boolean not null default false,
  progress jsonb,
  answer jsonb
);
