-- When somebody of the crew came and left, as it was ticked off.
alter table assignments
  add column in_at timestamptz,
  add column out_at timestamptz,
  -- When it became theirs, where they had to ask first.
  add column agreed_at timestamptz,
  add check (out_at is null or out_at >= in_at);

-- Hours that were put right by hand: what they were, what they are since, and why.
create table hour_corrections (
  id uuid primary key,
  assignment_id uuid not null references assignments (id) on delete cascade,
  at timestamptz not null,
  by text not null,
  before numeric(6, 2) not null,
  after numeric(6, 2) not null,
  why text not null check (why <> '')
);
create index hour_corrections_assignment on hour_corrections (assignment_id);

alter table organization
  -- Minutes after which whoever is not there counts as missing.
  add column late_minutes int not null default 10 check (late_minutes between 1 and 120),
  -- Served hours are rounded to so many minutes.
  add column rounded_to int not null default 15 check (rounded_to in (1, 5, 6, 10, 15, 30, 60)),
  add column rounded text not null default 'nearest' check (rounded in ('nearest', 'up', 'down')),
  -- What an hour of volunteers is worth, for applications for money; in minor units.
  add column hour_value bigint check (hour_value > 0);
