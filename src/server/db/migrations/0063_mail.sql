-- What a message says beside its plain text: the same formatted, what a mailbox shows behind the subject, and the small print. With them
-- it is shown for ever as it was sent. Its headers as they left, without the links that work like passwords.
alter table messages add formatted jsonb, add preview text not null default '', add closing text not null default '', add headers jsonb,
  -- How often it was sent to another address since: a gateway takes the same key once.
  add readdressed int not null default 0;
alter table message_lines add formatted jsonb not null default '{"en": null, "fr": null}', add preview jsonb not null default '{"en": ""}', add french_of text not null default '';
update change_rows set before = '{"preview": "", "closing": "", "readdressed": 0}'::jsonb || before where of = 'messages' and after is null;
update change_rows set before = '{"formatted": {"en": null, "fr": null}, "preview": {"en": ""}, "french_of": ""}'::jsonb || before where of = 'message_lines' and after is null;
create function pg_temp.with_format(messages jsonb) returns jsonb language sql as $$
  select case when jsonb_typeof(messages) <> 'array' then messages else (
    select coalesce(jsonb_agg('{"formatted": {"en": null, "fr": null}, "preview": {"en": ""}, "frenchOf": ""}'::jsonb || m order by at), '[]'::jsonb)
    from jsonb_array_elements(case when jsonb_typeof(messages) = 'array' then messages else '[]'::jsonb end) with ordinality of (m, at)) end $$;
update plan_changes set before = pg_temp.with_format(before), after = pg_temp.with_format(after) where field = 'messages';

alter table standin_mail add html text, add headers jsonb;

-- A message is found again by the identity its mail has; those that went out before have none.
create index messages_thread on messages (event_id, contact_id, sent_at) where state = 'sent' and channel = 'email';

-- Who wants to hear of an event, or of every date of a series, without a seat; and who wants no more reminders of one they have to do with.
-- Somebody who only said their address is written to once, and follows when they say so from there.
create table followers (
  id uuid primary key,
  event_id uuid references events (id) on delete cascade,
  series_id uuid references series (id) on delete cascade,
  contact_id uuid references contacts (id),
  name text not null,
  email text not null,
  language text not null default 'en',
  state text not null check (state in ('asked', 'follows', 'out')),
  asked_at timestamptz not null,
  since timestamptz,
  ended_at timestamptz,
  check (num_nonnulls(event_id, series_id) = 1),
  check (state <> 'follows' or since is not null)
);
create unique index followers_once on followers (coalesce(event_id, series_id), lower(trim(email))) where contact_id is null;
create unique index followers_contact on followers (coalesce(event_id, series_id), contact_id) where contact_id is not null;
create index followers_of on followers (contact_id);

alter table links drop constraint links_kind_check;
alter table links add constraint links_kind_check
  check (kind in ('manage', 'crew', 'survey', 'preview', 'own', 'seat', 'feed', 'invited', 'gift', 'pledge', 'receipt', 'out', 'follow'));

-- What the stand-in for mail has to tell of a mail that it took.
create table standin_mail_notices (id uuid primary key, key text not null, how text not null check (how in ('bounced', 'complained')), at timestamptz not null);
create index standin_mail_notices_at on standin_mail_notices (at);

-- A mailing goes at a time; the links in it are counted as a whole, and not by who followed them.
alter table mailings add goes_at timestamptz, add stopped_at timestamptz, add preview text not null default '';
update mailings set goes_at = created_at;
create table mailing_links (
  token text primary key,
  mailing_id uuid not null references mailings (id) on delete cascade,
  url text not null,
  followed int not null default 0,
  unique (mailing_id, url)
);
