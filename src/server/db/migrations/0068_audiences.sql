-- A mailing says what it says in both languages, plain or formatted.
alter table mailings add said jsonb;
update mailings set said = jsonb_build_object('subject', jsonb_build_object('en', subject), 'preview', jsonb_build_object('en', preview),
  'body', jsonb_build_object('en', body), 'formatted', '{"en": null, "fr": null}'::jsonb, 'frenchOf', '');
alter table mailings alter said set not null, drop subject, drop preview, drop body;

-- Whether somebody at an address had a line already is asked for every copy of it.
create index messages_copies on messages (line_id, lower(address)) where line_id is not null and state in ('sent', 'due');
