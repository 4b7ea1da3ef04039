-- What volunteers can do, and what a role asks of them.
create table skills (
  id uuid primary key,
  name text not null check (name <> ''),
  -- A certificate has a number and runs out; another skill is simply there.
  certificate boolean not null,
  retired_at timestamptz
);
create unique index skills_name on skills (lower(name)) where retired_at is null;

create table held_skills (
  contact_id uuid not null references contacts (id) on delete cascade,
  skill_id uuid not null references skills (id),
  number text not null default '',
  -- The last day it holds; null: as long as they live.
  until date,
  -- Who of the team has seen it; null: it is only said.
  seen_by text,
  seen_at timestamptz,
  primary key (contact_id, skill_id),
  check ((seen_by is null) = (seen_at is null))
);
create index held_skills_skill on held_skills (skill_id);

create table roles (
  name text primary key check (name <> ''),
  id uuid not null unique default gen_random_uuid(),
  -- What one does, as people read it who think of taking it.
  brief text not null default '',
  from_age int check (from_age between 1 and 99),
  -- Anybody who has what it needs may take a shift of it at once; else the crew lead is asked.
  anybody boolean not null default true,
  retired_at timestamptz
);
create unique index roles_name on roles (lower(name));
create table role_needs (
  role text not null references roles (name) on update cascade on delete cascade,
  skill_id uuid not null references skills (id),
  primary key (role, skill_id)
);

-- One spelling of each role: the one most shifts have.
with spelled as (
  select role, row_number() over (partition by lower(role) order by count(*) desc, role) as nth from shifts group by role)
insert into roles (name) select role from spelled where nth = 1;
update shifts s set role = r.name from roles r where lower(r.name) = lower(s.role) and r.name <> s.role;
alter table shifts add foreign key (role) references roles (name) on update cascade;

-- How many a shift takes at least, and how many are wished: until now it was one number.
alter table shifts rename column needed to wished;
alter table shifts
  add column least int,
  add column name text not null default '',
  add column importance text not null default 'usual' check (importance in ('extra', 'usual', 'vital')),
  add column briefing text not null default '',
  add column lead_id uuid references contacts (id),
  add column version int not null default 1;
update shifts set least = wished;
alter table shifts alter column least set not null, add check (least between 0 and wished);
create index shifts_lead on shifts (lead_id) where lead_id is not null;

update events set waits = jsonb_set(waits, '{shifts}', (
  select coalesce(jsonb_agg(s.shift - 'needed' || jsonb_build_object('least', s.shift -> 'needed', 'wished', s.shift -> 'needed') order by s.at), '[]')
  from jsonb_array_elements(waits -> 'shifts') with ordinality as s (shift, at)))
where jsonb_typeof(waits -> 'shifts') = 'array';

-- Rest between shifts, once in 24 hours; and what nobody overrides.
alter table organization
  add column rest_hours int not null default 8 check (rest_hours between 0 and 16),
  add column never_overridden text[] not null default '{}';
