-- What people write back: replies to what was sent to them, and questions from the form on the page of an event.
create table incoming (
  id uuid primary key,
  -- What it replies to; null of a question from a page.
  message_id uuid references messages (id) on delete cascade,
  event_id uuid references events (id) on delete cascade,
  contact_id uuid references contacts (id),
  name text not null,
  address text not null,
  language text not null default 'en',
  subject text not null default '',
  words text not null,
  -- A machine wrote it.
  automatic boolean not null default false,
  -- Under which identity the mail came, so that it is taken in once.
  identity text,
  came_at timestamptz not null,
  settled_at timestamptz,
  settled_by text not null default '',
  answer text not null default ''
);
create unique index incoming_once on incoming (message_id, identity) where identity is not null;
create index incoming_open on incoming (came_at) where settled_at is null;
create index incoming_came on incoming (came_at desc);
create index incoming_of on incoming (contact_id);
create index incoming_event on incoming (event_id);
