-- Lines of the bank, each once however often its file is brought in, and what they were found to be.
create table bank_lines (
  id uuid primary key,
  key text not null unique,
  on_day date not null,
  amount bigint not null check (amount <> 0),
  words text not null,
  currency text not null,
  file_name text not null,
  line int not null,
  brought_at timestamptz not null,
  brought_by text not null,
  state text not null default 'open' check (state in ('open', 'settled')),
  how text check (how in ('payout', 'transfer', 'hand', 'owed', 'fee', 'unexplained', 'elsewhere')),
  said text not null default '',
  settled_at timestamptz,
  settled_by text,
  check ((state = 'open') = (how is null))
);
create index bank_lines_open on bank_lines (on_day, id) where state = 'open';
create index bank_lines_settled on bank_lines (settled_at) where state = 'settled';

-- What of ours a line stands for: each once.
create table bank_matches (
  line_id uuid not null references bank_lines (id),
  payment_id uuid references payments (id),
  payout text,
  check (num_nonnulls(payment_id, payout) = 1)
);
create unique index bank_matches_payment on bank_matches (payment_id) where payment_id is not null;
create unique index bank_matches_payout on bank_matches (payout) where payout is not null;
create index bank_matches_line on bank_matches (line_id);

-- Money that is taken to the bank, fees of the bank, and what nobody explains, is posted by the line.
alter table postings add column bank_line_id uuid references bank_lines (id), drop constraint postings_about,
  add constraint postings_about check (num_nonnulls(order_id, gift_id, move_id, bank_line_id) = 1);
create index postings_bank on postings (bank_line_id) where bank_line_id is not null;
alter table postings drop constraint postings_kind_check;
alter table postings add check (kind in ('booked', 'changed', 'received', 'returned', 'let off', 'fee', 'disputed', 'paid out', 'set aside', 'banked'));

-- By which codes an accountant knows the accounts.
create table account_codes (account text primary key, code text not null check (code <> ''));
