-- What an event is planned to bring and to cost, line by line, and what it cost.
create table event_budget (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  position int not null,
  kind text not null check (kind in ('income', 'cost')),
  name text not null check (name <> ''),
  amount bigint not null check (amount >= 0),
  per_head boolean not null
);
create index event_budget_event on event_budget (event_id);
create table event_costs (
  id uuid primary key,
  event_id uuid not null references events (id),
  on_day date not null,
  what text not null check (what <> ''),
  -- The line of the plan it belongs to, by its name; empty where none foresaw it.
  line text not null default '',
  amount bigint not null check (amount > 0),
  currency text not null,
  paid_from text not null check (paid_from in ('bank', 'cash')),
  recorded_at timestamptz not null,
  recorded_by text not null,
  taken_back_at timestamptz
);
create index event_costs_event on event_costs (event_id);
alter table entries drop constraint entries_account_check;
alter table entries add check (account in ('cards', 'bank', 'cash', 'owed', 'disputed', 'in kind', 'unexplained', 'taxes', 'seats', 'extras', 'kept',
  'gifts', 'discounts', 'favours', 'written off', 'fees', 'costs'));
alter table postings add column cost_id uuid references event_costs (id), drop constraint postings_about,
  add constraint postings_about check (num_nonnulls(order_id, gift_id, move_id, bank_line_id, cost_id) = 1);
create index postings_cost on postings (cost_id) where cost_id is not null;
alter table postings drop constraint postings_kind_check;
alter table postings add check (kind in ('booked', 'changed', 'received', 'returned', 'let off', 'fee', 'disputed', 'paid out', 'set aside', 'banked', 'cost'));
