-- Whether an event asks for a gift with a booking, and for which funds, is a choice of its plan. Events of before asked for any.
alter table events add column gift_funds uuid[] not null default '{}';
update events set gift_funds = (select coalesce(array_agg(id order by name), '{}') from funds);
