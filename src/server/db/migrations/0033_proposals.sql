-- Whether anybody may propose an event, and what they are told; off unless wanted.
alter table organization add proposals_open boolean not null default false, add proposals_words jsonb not null default '{"en": ""}';

-- An event that somebody from outside proposed: a draft, with who it was and what they had in mind.
create table event_proposals (
  id uuid primary key,
  event_id uuid not null unique references events (id) on delete cascade,
  contact_id uuid references contacts (id),
  name text not null,
  email text not null,
  phone text not null default '',
  language text not null default 'en' check (language in ('en', 'fr')),
  about text not null,
  -- When and where they had in mind, as they wrote it.
  wishes text not null default '',
  state text not null default 'new' check (state in ('new', 'taken', 'declined')),
  words text not null default '',
  proposed_at timestamptz not null,
  decided_at timestamptz,
  decided_by text
);
create index event_proposals_contact on event_proposals (contact_id) where contact_id is not null;
create index event_proposals_new on event_proposals (proposed_at) where state = 'new';
