-- How many working days a step has, so that its last day is counted from the day on which it reaches its approver.
alter table clearance_steps add column working_days int not null default 5 check (working_days between 0 and 400);
update clearance_steps s set working_days = r.working_days from clearance_rules r where r.step = s.step;
