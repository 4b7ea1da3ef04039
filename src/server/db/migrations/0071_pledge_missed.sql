-- When a monthly gift last stood still for want of a card that works: lines of the organization hang on it. Of those that stand still
-- already nobody knows it; they were written to when it happened.
alter table pledges add missed_at timestamptz;
create index pledges_missed on pledges (missed_at) where missed_at is not null;
create trigger pledges_set_year_round after update on pledges referencing new table as changed for each statement execute function year_round_had();
