-- Longer undertakings that gifts, and later events and outcomes, add up to.
create table initiatives (id uuid primary key, name text not null unique, about text not null default '');

-- A page to give on, of its own or of an event.
create table giving_pages (
  id uuid primary key,
  slug text not null unique,
  title jsonb not null,
  words jsonb not null,
  -- What donors are thanked with, in the letter and beside a receipt.
  thanks jsonb not null,
  fund_id uuid not null references funds (id),
  initiative_id uuid references initiatives (id),
  event_id uuid references events (id),
  currency text not null check (currency ~ '^[A-Z]{3}$'),
  goal bigint check (goal > 0),
  until_on date,
  suggested bigint[] not null default '{}',
  monthly boolean not null default true,
  shows_givers boolean not null default true,
  open boolean not null default true,
  version int not null default 1,
  created_at timestamptz not null,
  updated_at timestamptz not null
);
create index giving_pages_event on giving_pages (event_id) where event_id is not null;

create sequence gift_number start 5001;
-- A gift every month, from a card that the processor keeps.
create table pledges (
  id uuid primary key,
  number int not null unique default nextval('gift_number'),
  page_id uuid references giving_pages (id),
  contact_id uuid references contacts (id),
  given text not null,
  family text not null,
  email text not null,
  language text not null,
  fund_id uuid not null references funds (id),
  initiative_id uuid references initiatives (id),
  anonymous boolean not null,
  amount bigint not null check (amount > 0),
  currency text not null,
  -- The day of the month; at most 28, so that every month has it.
  day int not null check (day between 1 and 28),
  state text not null check (state in ('begun', 'running', 'paused', 'missed', 'ended')),
  card_token text,
  card_ending text not null default '',
  card_expires text check (card_expires ~ '^\d{4}-\d{2}$'),
  -- The instalment that comes next, when it is asked for, and how often it was.
  instalment date,
  next_at timestamptz,
  tries int not null default 0,
  told_expiry text,
  began_at timestamptz not null,
  ended_at timestamptz
);
create index pledges_next on pledges (next_at) where next_at is not null;
create index pledges_contact on pledges (contact_id);

create table gifts (
  id uuid primary key,
  number int not null unique default nextval('gift_number'),
  page_id uuid references giving_pages (id),
  event_id uuid references events (id),
  pledge_id uuid references pledges (id),
  instalment date,
  contact_id uuid references contacts (id),
  given text not null,
  family text not null,
  email text,
  phone text,
  street text not null default '',
  town text not null default '',
  postal_code text not null default '',
  country text check (country ~ '^[A-Z]{2}$'),
  language text not null check (language in ('en', 'fr')),
  fund_id uuid not null references funds (id),
  initiative_id uuid references initiatives (id),
  kind text not null check (kind in ('money', 'in kind')),
  amount bigint not null check (amount > 0),
  currency text not null,
  -- What the giver got for it, and what that is worth.
  advantage bigint not null default 0 check (advantage >= 0),
  advantage_what text not null default '',
  -- Of a gift in kind: what it is, and who said what it is worth.
  thing text not null default '',
  appraised_by text not null default '',
  tribute text check (tribute in ('memory', 'honour')),
  tribute_to text not null default '',
  tell_name text not null default '',
  tell_email text,
  words text not null default '',
  anonymous boolean not null,
  state text not null check (state in ('open', 'given', 'part returned', 'returned', 'lapsed')),
  received bigint not null default 0 check (received >= 0),
  channel text not null check (channel in ('page', 'staff', 'pledge')),
  taken_by text not null default '',
  placed_at timestamptz not null,
  given_at timestamptz,
  unique (id, currency),
  unique (pledge_id, instalment),
  check (kind = 'money' or thing <> ''),
  check ((tribute is null) = (tribute_to = ''))
);
create index gifts_contact on gifts (contact_id);
create index gifts_page on gifts (page_id, given_at);
create index gifts_event on gifts (event_id) where event_id is not null;

alter table links drop constraint links_kind_check;
alter table links add constraint links_kind_check
  check (kind in ('manage', 'crew', 'survey', 'preview', 'own', 'seat', 'feed', 'invited', 'gift', 'pledge'));

-- Money that moves for a gift, as for an order.
alter table payments add column gift_id uuid, add foreign key (gift_id, currency) references gifts (id, currency),
  add check (num_nonnulls(order_id, gift_id) <= 1);
create index payments_gift on payments (gift_id) where gift_id is not null;
alter table payments drop constraint payments_method_check;
alter table payments add check (method in ('card', 'cash', 'cheque', 'transfer', 'in kind', 'contested', 'waived'));
alter table donations add column gift_id uuid, add column initiative_id uuid references initiatives (id),
  add foreign key (gift_id, currency) references gifts (id, currency);
create index donations_gift on donations (gift_id) where gift_id is not null;
alter table payment_attempts alter column order_id drop not null, add column gift_id uuid references gifts (id),
  add check (num_nonnulls(order_id, gift_id) = 1);
create unique index payment_attempts_open_gift on payment_attempts (gift_id) where state in ('asked', 'step', 'unknown');
alter table postings add column gift_id uuid references gifts (id), drop constraint postings_about,
  add constraint postings_about check (num_nonnulls(order_id, gift_id, move_id) = 1);
create index postings_gift on postings (gift_id) where gift_id is not null;

-- The stand-in keeps cards.
create table standin_cards (token text primary key, digits text not null, expires text not null, kept_at timestamptz not null);
