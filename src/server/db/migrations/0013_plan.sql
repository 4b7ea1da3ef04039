-- What a plan says more, text that is formatted, and who changed what of it.
alter table events
  add column subtitle text not null default '',
  -- For the team alone.
  add column notes text not null default '',
  -- The same in French; what of the English each was written beside is kept as a digest.
  add column french jsonb not null default '{"publicTitle": "", "subtitle": "", "summary": "", "description": {"type": "doc", "content": []}}',
  add column french_of jsonb not null default '{}';

create function pg_temp.lines(paragraph text) returns jsonb language sql immutable as $$
  select coalesce(jsonb_agg(node order by place, part), '[]') from (
    select place, 1 as part, jsonb_build_object('type', 'text', 'text', line) as node
      from regexp_split_to_table(paragraph, '\n') with ordinality as l(line, place) where line <> ''
    union all
    select place, 0, jsonb_build_object('type', 'hardBreak')
      from regexp_split_to_table(paragraph, '\n') with ordinality as l(line, place) where place > 1) n $$;
create function pg_temp.document(words text) returns jsonb language sql immutable as $$
  select jsonb_build_object('type', 'doc', 'content', coalesce(jsonb_agg(
      jsonb_build_object('type', 'paragraph', 'content', pg_temp.lines(paragraph)) order by place), '[]'))
    from regexp_split_to_table(words, '\n{2,}') with ordinality as p(paragraph, place) where btrim(paragraph, E' \n\t') <> '' $$;
alter table events alter column description drop default;
alter table events alter column description type jsonb using pg_temp.document(description);
alter table events alter column description set default '{"type": "doc", "content": []}';
drop function pg_temp.document(text);
drop function pg_temp.lines(text);

create table plan_changes (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  field text not null,
  at timestamptz not null,
  actor text not null,
  staff_id uuid references staff (id),
  before jsonb,
  after jsonb,
  -- The change that this one took back.
  undoes uuid references plan_changes (id) on delete set null
);
create index plan_changes_of on plan_changes (event_id, at desc);
