-- Whose payment a seat is: whoever booked paid for it, unless they say that its guest did.
alter table registrations add column pays_own boolean not null default false;
-- A chance to win something, as a raffle ticket is: no part of it is a gift.
alter table extras add column chance boolean not null default false;
-- A line of the bank can stand for what an event cost.
alter table bank_lines drop constraint bank_lines_how_check;
alter table bank_lines add check (how in ('payout', 'transfer', 'hand', 'owed', 'cost', 'fee', 'unexplained', 'elsewhere'));
alter table bank_matches add column cost_id uuid references event_costs (id);
alter table bank_matches drop constraint bank_matches_check;
alter table bank_matches add check (num_nonnulls(payment_id, payout, cost_id) = 1);
create unique index bank_matches_cost on bank_matches (cost_id) where cost_id is not null;
