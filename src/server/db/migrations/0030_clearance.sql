-- What is asked of a plan is answered yes, no or with a number; before, what was so was ticked, and what was not was left.
alter table events add facts jsonb not null default '{}';
create function pg_temp.answered(flags text[]) returns jsonb language sql immutable as $$
  select coalesce(jsonb_object_agg(code, code = any(flags)), '{}')
  from unnest(array['minors', 'food', 'alcohol', 'money', 'boats', 'tools', 'off-site', 'speakers']) as code $$;
update events set facts = pg_temp.answered(flags);
alter table events drop column flags;
update events set own = array_replace(own, 'flags', 'facts') where 'flags' = any(own);
update plan_changes set field = 'facts',
  before = pg_temp.answered(array(select jsonb_array_elements_text(coalesce(before, '[]')))),
  after = pg_temp.answered(array(select jsonb_array_elements_text(coalesce(after, '[]'))))
where field = 'flags';
drop function pg_temp.answered(text[]);

-- Whether a place is the organization's own; null where nobody said.
alter table venues add ours boolean;

-- Facts that an organization asks of its plans itself.
create table clearance_facts (
  id uuid primary key,
  name text not null,
  kind text not null check (kind in ('yes or no', 'number')),
  position int not null,
  retired_at timestamptz
);

-- Rules: groups of tests, any of which asks for the step; by whom it is decided, and after which others.
alter table clearance_rules
  add position int not null default 0,
  add groups jsonb not null default '[]',
  add approver_id uuid references staff (id),
  add after uuid[] not null default '{}',
  add documents jsonb not null default '[]',
  add questions jsonb not null default '[]',
  add meanwhile text not null default 'stays open' check (meanwhile in ('stays open', 'closes')),
  alter approves drop not null;
update clearance_rules r set
  groups = (select coalesce(jsonb_agg(g), '[]') from (
    select jsonb_build_array(jsonb_build_object('fact', f, 'is', true)) as g from unnest(r.any_of) as f
    union all select jsonb_build_array(jsonb_build_object('fact', 'headcount', 'atLeast', r.headcount_from)) where r.headcount_from is not null
  ) as groups),
  after = array(select b.id from clearance_rules b where b.step_order = (
    select max(step_order) from clearance_rules where step_order < r.step_order)),
  position = (select count(*) from clearance_rules b where (b.step_order, b.step) < (r.step_order, r.step));
alter table clearance_rules drop any_of, drop headcount_from, drop step_order,
  add check ((approves is null) <> (approver_id is null));
-- Goes up whenever the rules or the facts are changed: two people change them one after the other.
alter table organization add clearance_version int not null default 1;

-- Why a plan was sent late, and who let it be.
alter table clearances
  add late_reason text not null default '',
  add granted_at timestamptz,
  add granted_by uuid references staff (id),
  -- Registration was closed while a step is decided again, and opens by itself once it is.
  add closed_for_it boolean not null default false;
update clearances set granted_at = submitted_at, granted_by = submitted_by where late_by_days > 0;

alter table clearance_steps
  add rule_id uuid,
  add approver_id uuid references staff (id),
  add after uuid[] not null default '{}',
  add looked jsonb not null default '{}',
  add documents jsonb not null default '[]',
  add meanwhile text not null default 'stays open' check (meanwhile in ('stays open', 'closes')),
  alter approves drop not null,
  drop constraint clearance_steps_state_check,
  add constraint clearance_steps_state_check check (state in
    ('waiting', 'with approver', 'cleared', 'cleared with conditions', 'sent back', 'refused', 'reopened', 'not needed'));
update clearance_steps s set
  rule_id = (select id from clearance_rules r where r.step = s.step limit 1),
  after = array(select b.id from clearance_steps b where b.clearance_id = s.clearance_id and b.step_order = (
    select max(step_order) from clearance_steps where clearance_id = s.clearance_id and step_order < s.step_order)),
  looked = (select coalesce(jsonb_object_agg(key, value), '{}') from (
    select t ->> 'fact' as key, case when t ? 'atLeast' then to_jsonb(coalesce(e.capacity, 0) + coalesce(e.online_capacity, 0))
      else coalesce(e.facts -> (t ->> 'fact'), 'null') end as value
    from clearances c join events e on e.id = c.event_id join clearance_rules r on r.step = s.step,
      jsonb_array_elements(r.groups) as g, jsonb_array_elements(g) as t where c.id = s.clearance_id
  ) as looks where key is not null);

-- Everything that was said about the clearance of an event, in order: it stays when the plan is sent again.
create table clearance_words (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  step_id uuid references clearance_steps (id) on delete cascade,
  kind text not null check (kind in ('word', 'question', 'answer', 'decision', 'sent', 'granted', 'not granted')),
  body text not null,
  -- What was decided.
  decision text,
  -- The question that it answers.
  answers uuid references clearance_words (id) on delete cascade,
  mentions uuid[] not null default '{}',
  author_id uuid references staff (id),
  author text not null,
  at timestamptz not null
);
create index clearance_words_of on clearance_words (event_id, at, id);
create unique index clearance_words_answer on clearance_words (answers) where answers is not null;

create table clearance_conditions (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  step_id uuid not null references clearance_steps (id) on delete cascade,
  what text not null,
  owner_id uuid references staff (id),
  due_on date,
  blocks boolean not null,
  created_at timestamptz not null,
  met_at timestamptz,
  met_by uuid references staff (id),
  met_words text not null default ''
);
create index clearance_conditions_of on clearance_conditions (event_id);

create table clearance_files (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  -- The document of a rule that it is; null for one that nobody asked for.
  document_id uuid,
  label text not null,
  file_id uuid not null references files (id),
  brought_by uuid references staff (id),
  at timestamptz not null,
  removed_at timestamptz
);
create index clearance_files_of on clearance_files (event_id);
