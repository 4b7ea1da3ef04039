-- What volunteers leave as a deposit: asked for by a call of whoever is accepted, kept aside while they serve, and given back by its rule.
alter table calls add column deposit jsonb;
create table deposits (
  id uuid primary key,
  call_id uuid not null references calls (id),
  -- Null once whoever left it was erased.
  application_id uuid unique references applications (id) on delete set null,
  contact_id uuid not null references contacts (id),
  event_id uuid references events (id),
  -- How it was asked for; a call that is changed later changes nothing of it.
  amount bigint not null check (amount > 0),
  currency text not null check (currency ~ '^[A-Z]{3}$'),
  back text not null check (back in ('every', 'any', 'share')),
  notice_hours int not null check (notice_hours >= 0),
  state text not null check (state in ('asked', 'held', 'returned', 'part returned', 'kept', 'owed', 'let off')),
  received bigint not null default 0,
  kept bigint not null default 0 check (kept >= 0),
  asked_at timestamptz not null,
  settled_at timestamptz,
  settled_by text,
  -- Why so much went back: { code, params }, or { words } of whoever decided it.
  why jsonb,
  unique (id, currency),
  check ((settled_at is null) = (settled_by is null)),
  check (settled_at is not null or kept = 0)
);
create index deposits_call on deposits (call_id);
create index deposits_contact on deposits (contact_id);
create index deposits_event on deposits (event_id) where event_id is not null;
create index deposits_open on deposits (asked_at) where settled_at is null;

alter table payments add column deposit_id uuid, add foreign key (deposit_id, currency) references deposits (id, currency),
  drop constraint payments_check, add constraint payments_about check (num_nonnulls(order_id, gift_id, deposit_id) <= 1),
  drop constraint payments_kind_check, add check (kind in ('seats', 'donation', 'deposit')), add check ((kind = 'deposit') = (deposit_id is not null));
create index payments_deposit on payments (deposit_id) where deposit_id is not null;
alter table payment_attempts add column deposit_id uuid references deposits (id),
  drop constraint payment_attempts_check, add constraint payment_attempts_about check (num_nonnulls(order_id, gift_id, deposit_id) = 1);
create unique index payment_attempts_open_deposit on payment_attempts (deposit_id) where state in ('asked', 'step', 'unknown');
create index payment_attempts_deposit on payment_attempts (deposit_id) where deposit_id is not null;
alter table postings add column deposit_id uuid references deposits (id), drop constraint postings_about,
  add constraint postings_about check (num_nonnulls(order_id, gift_id, deposit_id, move_id, bank_line_id, cost_id) = 1);
create index postings_deposit on postings (deposit_id) where deposit_id is not null;
alter table entries drop constraint entries_account_check, add constraint entries_account_check check (account in ('cards', 'bank', 'cash', 'owed', 'disputed',
  'in kind', 'unexplained', 'deposits', 'taxes', 'seats', 'extras', 'kept', 'gifts', 'discounts', 'favours', 'written off', 'fees', 'costs'));
