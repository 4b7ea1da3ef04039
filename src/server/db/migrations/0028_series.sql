-- What takes place again and again by a rule. Its dates are events made ahead from a pattern, a template of its own.
create table series (
  id uuid primary key,
  pattern_id uuid not null references events (id),
  -- A rule of RFC 5545; null where there are only dates one by one.
  rule text,
  -- From where the rule counts.
  starts_local text not null check (starts_local ~ '^\d{4}-\d\d-\d\dT\d\d:\d\d$'),
  -- [{ startsLocal, endsLocal }]: dates beside the rule.
  extra jsonb not null default '[]',
  -- Starts that are left out.
  skipped text[] not null default '{}',
  -- How many months ahead its dates are made.
  horizon int not null check (horizon between 1 and 36),
  -- Whether dates that need no clearance open by themselves as they are made.
  opens boolean not null default false,
  -- When a date comes within the horizon.
  next_at timestamptz,
  version int not null default 1,
  created_by uuid references staff (id),
  created_at timestamptz not null,
  updated_at timestamptz not null
);
create unique index series_pattern on series (pattern_id);
create index series_next on series (next_at) where next_at is not null;

alter table events
  add column series_id uuid references series (id),
  -- The start that the rule gave it: by this it is known, wherever it is moved.
  add column slot text,
  -- What of its plan was changed by hand, and stays when the series changes.
  add column own text[] not null default '{}',
  add check ((series_id is null) = (slot is null));
create unique index events_slot on events (series_id, slot) where series_id is not null;
