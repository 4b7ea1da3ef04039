-- What a message plan is made of is a line; it was called a step, as those of a clearance are.
alter table message_steps rename to message_lines;
alter index message_steps_event rename to message_lines_event;
alter table messages rename column step_id to line_id;
update change_rows set of = 'message_lines' where of = 'message_steps';
update change_rows set before = before - 'step_id' || jsonb_build_object('line_id', before -> 'step_id') where of = 'messages' and before ? 'step_id';
update change_rows set after = after - 'step_id' || jsonb_build_object('line_id', after -> 'step_id') where of = 'messages' and after ? 'step_id';

-- What was changed of plans is kept as plans said it: it can be put back.
create function pg_temp.as_lines(messages jsonb) returns jsonb language sql as $$
  select case when jsonb_typeof(messages) <> 'array' then messages else (
    select coalesce(jsonb_agg(
      '{"channel": "email", "late": "skip", "usefulMinutes": null, "workingDays": false, "narrowed": [], "off": false}'::jsonb || (m - 'kind')
        || case when m ->> 'kind' = 'survey' and m ->> 'moment' = 'end' and m ->> 'audience' = 'attendees' then '{"moment": "survey"}'::jsonb
          else '{}'::jsonb end order by at), '[]'::jsonb)
    from jsonb_array_elements(case when jsonb_typeof(messages) = 'array' then messages else '[]'::jsonb end) with ordinality of (m, at)) end $$;
update plan_changes set before = pg_temp.as_lines(before), after = pg_temp.as_lines(after) where field = 'messages';
-- The same of rows that a change can still be taken back by; of a row that was taken away, what it has from now on besides.
update change_rows set before = before - 'kind', after = after - 'kind' where of = 'message_lines';
update change_rows set before = '{"channel": "email", "late": "skip", "working_days": false, "narrowed": [], "off": false}'::jsonb || before
  where of = 'message_lines' and after is null;
update change_rows set before = '{"channel": "email"}'::jsonb || before where of = 'messages' and after is null;

-- What decides who gets a line is the moment it hangs on.
alter table message_lines drop constraint message_steps_kind_check, drop constraint message_steps_moment_check,
  drop constraint message_steps_audience_check;
update message_lines set moment = 'survey' where kind = 'survey' and moment = 'end' and audience = 'attendees';
update messages m set kind = l.moment from message_lines l where l.id = m.line_id and m.kind <> l.moment;
alter table message_lines drop column kind,
  add channel text not null default 'email' check (channel in ('email', 'text message')),
  add late text not null default 'skip' check (late in ('skip', 'now', 'last')),
  add useful_minutes int check (useful_minutes > 0),
  add working_days boolean not null default false,
  add narrowed jsonb not null default '[]',
  add off boolean not null default false,
  add added_at timestamptz,
  add sent_by_hand_at timestamptz;
alter table messages add channel text not null default 'email' check (channel in ('email', 'text message'));

-- The hours of the day in which nothing is sent that can wait: {from, until}, by the clock of whoever is written to.
alter table organization add quiet_hours jsonb;

-- Since when nothing is sent, for an event or at all, and who stopped it.
alter table organization add sending_stopped jsonb;
alter table events add sending_stopped jsonb;

-- Text messages that the stand-in accepted.
create table standin_texts (key text primary key, number text not null, body text not null, accepted_at timestamptz not null);
