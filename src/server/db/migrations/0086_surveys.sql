-- Surveys of several kinds: for those who came, those who did not, the crew and guardians, each once or twice; with pages.
create function survey_pages(questions jsonb) returns jsonb language sql immutable as $$
  select jsonb_build_array(jsonb_build_object('id', 'first', 'title', jsonb_build_object('en', ''), 'per', 'survey', 'questions',
    coalesce((select jsonb_agg(jsonb_build_object(
      'id', q ->> 'id', 'kind', q ->> 'kind', 'prompt', jsonb_build_object('en', q ->> 'prompt'), 'help', jsonb_build_object('en', ''),
      'required', coalesce((q ->> 'required')::boolean, false),
      -- What was given is kept as it was called.
      'choices', coalesce((select jsonb_agg(jsonb_build_object('id', c, 'text', jsonb_build_object('en', c)) order by n)
        from jsonb_array_elements_text(q -> 'choices') with ordinality as choices (c, n) where trim(c) <> ''), '[]'),
      'least', null, 'most', null, 'low', jsonb_build_object('en', ''), 'high', jsonb_build_object('en', ''),
      'shownIf', null, 'follows', null, 'goesOn', null) order by at)
      from jsonb_array_elements(questions) with ordinality as asked (q, at)), '[]')))
$$;
create function survey_list(survey jsonb, id uuid) returns jsonb language sql immutable as $$
  select case when survey is null or survey = 'null' then '[]' else jsonb_build_array(jsonb_build_object(
    'id', id, 'audience', 'attendees', 'wave', 1, 'title', survey -> 'title', 'intro', jsonb_build_object('en', ''),
    'anonymous', survey -> 'anonymous', 'groupBy', null, 'closesDays', 60, 'pages', survey_pages(survey -> 'questions'))) end
$$;

alter table surveys
  add column position int not null default 0,
  add column audience text not null default 'attendees' check (audience in ('attendees', 'absent', 'crew', 'guardians')),
  add column wave int not null default 1 check (wave in (1, 2)),
  add column intro jsonb not null default '{"en": ""}',
  add column group_by text,
  add column closes_days int not null default 60 check (closes_days between 1 and 400),
  add column pages jsonb,
  -- Questions that were answered and are not asked any more.
  add column retired jsonb not null default '[]',
  -- Questions that were worded otherwise when some answered: { questionId, was, at, answered }.
  add column reworded jsonb not null default '[]';
update surveys set pages = survey_pages(questions);
alter table surveys alter column pages set not null, drop column questions;
alter table surveys drop constraint surveys_event_id_key;
create unique index surveys_once on surveys (event_id, audience, wave) where removed_at is null;
create index surveys_event on surveys (event_id);
update change_rows set
  before = case when before ? 'questions' then (before - 'questions') || jsonb_build_object('pages', survey_pages(before -> 'questions')) else before end,
  after = case when after ? 'questions' then (after - 'questions') || jsonb_build_object('pages', survey_pages(after -> 'questions')) else after end
  where of = 'surveys';
update plan_changes c set field = 'surveys',
  before = survey_list(before, coalesce((select s.id from surveys s where s.event_id = c.event_id), c.id)),
  after = survey_list(after, coalesce((select s.id from surveys s where s.event_id = c.event_id), c.id))
  where field = 'survey';
update events set own = array_replace(own, 'survey', 'surveys') where 'survey' = any(own);
drop function survey_list(jsonb, uuid);
drop function survey_pages(jsonb);

-- What was answered, in words, as the question and its choices were called then: what segments look for.
alter table survey_responses
  add column said jsonb not null default '[]',
  -- Whether only the first question was answered so far, from the mail.
  add column begun boolean not null default false;
update survey_responses x set said = coalesce((select jsonb_agg(jsonb_build_object('question', q -> 'prompt' ->> 'en', 'said', x.answers ->> (q ->> 'id')))
  from surveys v, jsonb_array_elements(v.pages) p, jsonb_array_elements(p -> 'questions') q where v.id = x.survey_id and x.answers ? (q ->> 'id')), '[]');

-- An anonymous answer is torn into slips, one a question, which nothing joins to each other or to whoever gave them.
create table survey_slips (
  id uuid primary key default gen_random_uuid(),
  survey_id uuid not null references surveys (id) on delete cascade,
  -- The question, and the session it was about.
  question text not null,
  value jsonb not null,
  -- What was said to the question by which answers are told apart.
  grouped text,
  -- Whether it is counted in what is shown.
  shown boolean not null default false
);
create index survey_slips_survey on survey_slips (survey_id, question);
insert into survey_slips (survey_id, question, value, shown)
  select x.survey_id, a.key, a.value, true from survey_responses x join surveys v on v.id = x.survey_id, jsonb_each(x.answers) a
  where v.anonymous order by random();
delete from survey_responses x using surveys v where v.id = x.survey_id and v.anonymous;

-- Surveys that are asked again and again, by name.
create table survey_templates (
  id uuid primary key,
  name text not null,
  survey jsonb not null,
  made_at timestamptz not null
);
create unique index survey_templates_name on survey_templates (lower(name));

-- A task that came of an answer.
alter table contact_notes add column survey_id uuid references surveys (id) on delete set null;
create index contact_notes_survey on contact_notes (survey_id) where survey_id is not null;
