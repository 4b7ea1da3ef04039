-- A mailing says what it says in both languages, plain or formatted.
alter table mailings add said jsonb;
update mailings set said = jsonb_build_object('subject', jsonb_build_object('en', subject), 'preview', jsonb_build_object('en', preview),
  'body', jsonb_build_object('en', body), 'formatted', '{"en": null, "fr": null}'::jsonb, 'frenchOf', '');
alter table mailings alter said set not null, drop subject, drop preview, drop body;

-- Whether somebody at an address had a line already is asked for every copy of it.
create index messages_copies on messages (line_id, lower(address)) where line_id is not null and state in ('sent', 'due');

-- One copy of a line can serve a household.
alter table message_lines add household boolean not null default false;
create function pg_temp.with_household(messages jsonb) returns jsonb language sql as $$
  select case when jsonb_typeof(messages) <> 'array' then messages else (
    select coalesce(jsonb_agg('{"household": false}'::jsonb || m order by at), '[]'::jsonb) from jsonb_array_elements(messages) with ordinality of (m, at)) end $$;
-- What was changed of plans is kept as plans said it: it can be put back.
update plan_changes set before = pg_temp.with_household(before), after = pg_temp.with_household(after) where field = 'messages';
update change_rows set before = '{"household": false}'::jsonb || before where of = 'message_lines' and after is null;

-- By whose clock something waits that is sent to somebody: what is known of them; else where they booked, or asked to follow.
alter table contacts add zone text;
alter table orders add zone text;
alter table followers add zone text;

-- Several mails to one person within minutes go as one: with which of them a message went.
alter table messages add went_with uuid references messages (id) on delete set null;
create index messages_went_with on messages (went_with) where went_with is not null;
