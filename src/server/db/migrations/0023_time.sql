-- How times of day are said, and more of when an event is.
alter table organization add column clock int not null default 24 check (clock in (12, 24));
-- Null: as the organization does.
alter table staff add column clock int check (clock in (12, 24));
alter table events
  add column all_day boolean not null default false,
  add column show_end boolean not null default true,
  -- Of times that a clock change repeats: those that are meant the second time round.
  add column second_time text[] not null default '{}';
