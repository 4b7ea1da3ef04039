-- A report the board can read: which events it is about, and what somebody wrote beside the figures. The figures are worked out whenever it is looked at.
create table board_reports (
  id uuid primary key,
  title text not null check (title <> ''),
  -- Of one event, or of those between two days, of a unit or of all.
  event_id uuid references events (id) on delete cascade,
  from_on date,
  until_on date,
  unit_id uuid references units (id),
  -- By section; what is not there is said from the figures.
  words jsonb not null default '{}',
  made_by text not null,
  made_at timestamptz not null,
  changed_at timestamptz not null,
  version int not null default 1,
  check ((event_id is null) = (from_on is not null and until_on is not null)),
  check (from_on <= until_on)
);
create index board_reports_event on board_reports (event_id) where event_id is not null;
