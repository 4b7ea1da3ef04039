-- Somebody who approves is away for some days, and who stands in for them then.
create table staff_absences (
  staff_id uuid primary key references staff (id) on delete cascade,
  from_on date not null,
  until_on date not null,
  deputy_id uuid references staff (id) on delete set null,
  set_at timestamptz not null,
  check (until_on >= from_on),
  check (deputy_id <> staff_id)
);
create index staff_absences_deputy on staff_absences (deputy_id);

-- When whoever has a step is reminded of it next, and how often they were.
alter table clearance_steps add nudge_at timestamptz, add nudges int not null default 0;
create index clearance_steps_nudge on clearance_steps (nudge_at) where nudge_at is not null;

-- When somebody last looked at the clearance of an event: what changed since is shown to them.
create table clearance_looks (
  staff_id uuid not null references staff (id) on delete cascade,
  event_id uuid not null references events (id) on delete cascade,
  looked_at timestamptz not null,
  primary key (staff_id, event_id)
);
