-- What receipts say of the organization, and the yearly amounts that it has confirmed.
create table receipt_settings (
  id int primary key default 1 check (id = 1),
  legal_name text not null default '',
  address text not null default '',
  registration text not null default '',
  place text not null default '',
  signer text not null default '',
  signer_role text not null default '',
  thanks jsonb not null default '{"en": ""}',
  indexed jsonb not null default '[]',
  version int not null default 1,
  updated_at timestamptz
);
insert into receipt_settings (id) values (1);

-- What the thing is that an event is, and what is shared out beside it; amounts a seat.
create table event_favours (
  event_id uuid primary key references events (id) on delete cascade,
  itself_what text not null default '',
  beside_what text not null default '',
  beside bigint not null default 0 check (beside >= 0),
  near_cash bigint not null default 0 check (near_cash between 0 and beside)
);

-- Numbers without gaps: the row is locked until what takes the number is kept.
create table receipt_numbers (series text primary key, last int not null);

create table receipt_batches (
  id uuid primary key,
  year int not null,
  mail boolean not null,
  state text not null check (state in ('running', 'stopped', 'done')),
  begun_at timestamptz not null,
  begun_by text not null,
  ended_at timestamptz
);
create unique index receipt_batches_one on receipt_batches (year) where state <> 'done';

create table receipts (
  id uuid primary key,
  number text not null unique,
  year int not null,
  contact_id uuid references contacts (id),
  issued_at timestamptz not null,
  issued_by text not null,
  language text not null check (language in ('en', 'fr')),
  -- All that it says, as it was said, and the SHA-256 of that.
  content jsonb not null,
  sha256 text not null,
  amount bigint not null,
  advantage bigint not null,
  eligible bigint not null check (eligible > 0),
  currency text not null,
  batch_id uuid references receipt_batches (id),
  replaces uuid unique references receipts (id),
  state text not null check (state in ('issued', 'void')),
  voided_at timestamptz,
  void_why text not null default '',
  voided_by text not null default '',
  check ((state = 'void') = (voided_at is not null))
);
create index receipts_year on receipts (year, number);
create index receipts_contact on receipts (contact_id);
create function receipts_are_kept() returns trigger language plpgsql as $$
begin
  raise exception 'a receipt is never changed: it is voided, and another one written';
end $$;
create trigger receipts_kept before delete or update of number, year, issued_at, content, sha256, amount, advantage, eligible, currency, replaces, language
  on receipts for each row execute function receipts_are_kept();
create trigger receipts_stay_void before update of state on receipts for each row when (old.state = 'void') execute function receipts_are_kept();

-- What a receipt is for: each thing that was paid is receipted once.
create table receipt_parts (
  receipt_id uuid not null references receipts (id),
  part text not null,
  amount bigint not null,
  live boolean not null default true,
  primary key (receipt_id, part)
);
create unique index receipt_parts_once on receipt_parts (part) where live;

-- Who a batch is for, and what became of them.
create table receipt_batch_people (
  batch_id uuid not null references receipt_batches (id),
  -- Not a reference: who was merged meanwhile is written with the contact they became.
  contact_id uuid not null,
  state text not null check (state in ('waits', 'written', 'left')),
  why jsonb not null default '[]',
  receipt_id uuid references receipts (id),
  primary key (batch_id, contact_id)
);
create index receipt_batch_waits on receipt_batch_people (batch_id, contact_id) where state = 'waits';

alter table links drop constraint links_kind_check;
alter table links add constraint links_kind_check
  check (kind in ('manage', 'crew', 'survey', 'preview', 'own', 'seat', 'feed', 'invited', 'gift', 'pledge', 'receipt'));
