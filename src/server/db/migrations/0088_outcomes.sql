-- What an organization counts to know what its events change.
create table measures (
  id uuid primary key,
  name jsonb not null,
  unit jsonb not null,
  kind text not null check (kind in ('sum', 'count', 'latest', 'distinct')),
  direction text not null check (direction in ('more', 'less')),
  decimals int not null check (decimals between 0 and 3),
  -- More than this in one tally is looked at first.
  most numeric check (most > 0),
  entered_by text not null check (entered_by in ('team', 'crew', 'people', 'anyone')),
  looked_at boolean not null,
  closed_at timestamptz,
  made_at timestamptz not null
);
create unique index measures_name on measures (lower(name ->> 'en'));

-- What is counted at an event, when, and towards which initiatives.
alter table events add column outcomes jsonb not null default '{"measures": [], "opensDays": 0, "closesDays": 7, "initiativeIds": []}';
create index events_initiatives on events using gin ((outcomes -> 'initiativeIds'));

-- One entry towards a measure.
create table tallies (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  measure_id uuid not null references measures (id),
  value numeric,
  -- What was named, where different things are counted.
  thing text not null default '',
  -- What was typed.
  said text not null default '',
  counted_at timestamptz not null,
  place text not null default '',
  note text not null default '',
  by_name text not null default '',
  contact_id uuid references contacts (id),
  staff_id uuid references staff (id),
  state text not null check (state in ('waiting', 'counted', 'set aside')),
  -- Why it waits, or waited.
  doubts jsonb not null default '[]',
  decided_by text,
  decided_at timestamptz,
  why text not null default '',
  entered_at timestamptz not null,
  version int not null default 1,
  check ((value is null) = (thing <> ''))
);
create index tallies_event on tallies (event_id, measure_id);
create index tallies_measure on tallies (measure_id, counted_at) where state = 'counted';
create index tallies_contact on tallies (contact_id) where contact_id is not null;
-- What a tally said before it was corrected.
create table tally_corrections (
  id uuid primary key default gen_random_uuid(),
  tally_id uuid not null references tallies (id) on delete cascade,
  before jsonb not null,
  why text not null,
  actor text not null,
  at timestamptz not null
);
create index tally_corrections_tally on tally_corrections (tally_id, at);
-- A picture that shows what was counted; one that no tally named is let go after a day.
create table tally_pictures (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  tally_id uuid unique references tallies (id) on delete cascade,
  content bytea not null,
  at timestamptz not null
);
create index tally_pictures_loose on tally_pictures (at) where tally_id is null;
create index tally_pictures_event on tally_pictures (event_id);

-- What an initiative wants to have reached by a day.
create table initiative_goals (
  id uuid primary key,
  initiative_id uuid not null references initiatives (id) on delete cascade,
  of text not null check (of in ('measure', 'gifts', 'hours')),
  measure_id uuid references measures (id),
  target numeric not null,
  from_on date not null,
  by_on date not null,
  position int not null default 0,
  check ((of = 'measure') = (measure_id is not null)),
  check (from_on < by_on)
);
create index initiative_goals_initiative on initiative_goals (initiative_id);
create index initiative_goals_measure on initiative_goals (measure_id) where measure_id is not null;
-- Gifts to its fund are gifts for it.
alter table initiatives add column version int not null default 1, add column fund_id uuid references funds (id);
create index donations_fund on donations (fund_id, at);
create index donations_initiative on donations (initiative_id) where initiative_id is not null;

-- The page where people count, behind a poster, and the picture of an initiative for other pages.
alter table links drop constraint links_kind_check;
alter table links add constraint links_kind_check
  check (kind in ('manage', 'crew', 'survey', 'preview', 'own', 'seat', 'feed', 'invited', 'gift', 'pledge', 'receipt', 'out', 'follow', 'application', 'signed', 'here', 'kiosk', 'cosign', 'count', 'widget'));
