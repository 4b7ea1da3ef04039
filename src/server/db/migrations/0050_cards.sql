-- A charge may wait for a second step at the bank.
alter table payment_attempts drop constraint payment_attempts_state_check;
alter table payment_attempts add check (state in ('asked', 'step', 'succeeded', 'declined', 'unknown'));
drop index payment_attempts_open;
create unique index payment_attempts_open on payment_attempts (order_id) where state in ('asked', 'step', 'unknown');

-- Money that goes back by card is asked for at the processor, under its own key, until it answers.
create table card_refunds (
  id uuid primary key,
  charge_id uuid not null references payment_attempts (id),
  amount bigint not null check (amount > 0),
  state text not null check (state in ('asked', 'returned', 'failed')),
  asked_at timestamptz not null,
  -- When it is asked for, or asked for again.
  ask_at timestamptz,
  answered_at timestamptz,
  words text not null default ''
);
create index card_refunds_charge on card_refunds (charge_id);
create index card_refunds_ask on card_refunds (ask_at) where ask_at is not null;

-- The charge that money rests on, also after it went over to another order; and the refund it went back with. Contested is money that
-- the processor took back from us for good.
alter table payments add column charge_id uuid references payment_attempts (id), add column refund_id uuid references card_refunds (id);
update payments set charge_id = attempt_id where attempt_id is not null;
create index payments_charge on payments (charge_id);
create index payments_refund on payments (refund_id) where refund_id is not null;
alter table payments drop constraint payments_method_check;
alter table payments add check (method in ('card', 'cash', 'cheque', 'transfer', 'contested', 'waived'));
-- What comes back because a refund did not go through undoes it.
alter table allocations add column undoes boolean not null default false;

-- What moved on the account with the processor, each once by its number there, whether a notification told of it or the statement did.
create table card_moves (
  id text primary key,
  at timestamptz not null,
  kind text not null check (kind in ('charge', 'refund', 'refund failed', 'disputed', 'dispute won', 'dispute lost', 'payout', 'payout failed')),
  charge_id uuid references payment_attempts (id),
  refund_id uuid references card_refunds (id),
  -- What the processor says it is about, and the payout it was paid out with.
  about text not null,
  payout text,
  amount bigint not null check (amount >= 0),
  fee bigint not null,
  currency text not null,
  heard_at timestamptz not null,
  heard_by text not null check (heard_by in ('notification', 'statement')),
  -- Why it is put aside, until somebody says what it is.
  aside text,
  settled_at timestamptz,
  settled_by text,
  words text
);
create index card_moves_charge on card_moves (charge_id);
create index card_moves_aside on card_moves (at) where aside is not null and settled_at is null;
create index card_moves_payout on card_moves (payout);

-- Until when the statement was read, and when it is read next.
create table card_statement (
  id int primary key default 1 check (id = 1),
  read_until timestamptz,
  read_at timestamptz,
  next_at timestamptz
);
insert into card_statement (id) values (1);

-- Fees, disputes and payouts are posted by what moved; they belong to no order, payouts to no event either.
alter table postings alter column order_id drop not null, alter column event_id drop not null,
  add column move_id text unique references card_moves (id), add constraint postings_about check (num_nonnulls(order_id, move_id) = 1);
alter table postings drop constraint postings_kind_check;
alter table postings add check (kind in ('booked', 'changed', 'received', 'returned', 'let off', 'fee', 'disputed', 'paid out', 'set aside'));
alter table book_sums alter column event_id drop not null;
alter table entries drop constraint entries_account_check;
alter table entries add check (account in ('cards', 'bank', 'cash', 'owed', 'disputed', 'in kind', 'unexplained', 'taxes', 'seats', 'extras', 'kept',
  'gifts', 'discounts', 'favours', 'written off', 'fees'));

-- The stand-in: what it charged, what moved, what will happen by itself, and what it will tell of.
alter table standin_charges add column currency text, add column ending text not null default '1', add column step_left int not null default 0;
alter table standin_charges drop constraint standin_charges_outcome_check;
alter table standin_charges add check (outcome in ('succeeded', 'declined', 'step'));
create table standin_refunds (key text primary key, charge text not null references standin_charges (key), amount bigint not null,
  outcome text not null check (outcome in ('returned', 'failed')), words text not null, at timestamptz not null);
create table standin_moves (id text primary key, at timestamptz not null, kind text not null, about text not null, amount bigint not null,
  fee bigint not null, currency text not null, payout text);
create index standin_moves_at on standin_moves (at);
create index standin_moves_unpaid on standin_moves (at) where payout is null;
create table standin_coming (id uuid primary key, at timestamptz not null, kind text not null, about text not null, amount bigint not null,
  currency text not null);
create index standin_coming_at on standin_coming (at);
create table standin_notices (id uuid primary key, deliver_at timestamptz not null, body text not null, times int not null);
create index standin_notices_at on standin_notices (deliver_at) where times > 0;
drop index standin_charges_due;
alter table standin_charges drop column answers_left, drop column answer_at;
-- What was charged before is on its statement, too.
insert into standin_charges (key, ref, amount, outcome, words, charged_at)
  select id::text, coalesce(processor_ref, 'CH-' || id::text), amount, 'succeeded', '', asked_at from payment_attempts where state = 'succeeded'
  on conflict do nothing;
update standin_charges c set currency = coalesce((select o.currency from payment_attempts a join orders o on o.id = a.order_id where a.id::text = c.key), 'XXX');
alter table standin_charges alter column currency set not null;
insert into standin_moves (id, at, kind, about, amount, fee, currency)
  select 'MV-' || ref, charged_at, 'charge', key, amount, round(amount * 0.024) + 25, currency from standin_charges where outcome = 'succeeded' and amount > 0;
update card_statement set next_at = (select min(at) from standin_moves);
