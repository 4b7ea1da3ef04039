-- People sign in to the public side without a password, by a code or a link to an address on record.
create table visitor_codes (
  id uuid primary key,
  email_key text not null,
  -- What the browser that asked keeps: the code works there alone.
  ticket_hash text not null unique,
  link_hash text not null unique,
  tries int not null default 0,
  created_at timestamptz not null,
  expires_at timestamptz not null,
  used_at timestamptz
);
create index visitor_codes_email on visitor_codes (email_key, created_at);
create table visitor_sessions (
  id uuid primary key,
  token_hash text not null unique,
  contact_id uuid not null references contacts (id),
  created_at timestamptz not null,
  seen_at timestamptz not null,
  expires_at timestamptz not null
);
create index visitor_sessions_contact on visitor_sessions (contact_id);

-- Who may see an event that is for those invited.
create table event_invited (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  contact_id uuid not null references contacts (id),
  at timestamptz not null,
  unique (event_id, contact_id)
);
create index event_invited_contact on event_invited (contact_id);

alter table events drop constraint events_visibility_check;
alter table events add constraint events_visibility_check
  check (visibility in ('everyone', 'members', 'units', 'invited', 'link'));
