-- In which language whoever proposes a session is written to.
alter table session_proposals add column language text not null default 'en' check (language in ('en', 'fr'));
