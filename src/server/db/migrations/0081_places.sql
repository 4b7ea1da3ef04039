-- Where a role is usually served, and how long it takes from one place of an event to another.
alter table roles add column places text[] not null default '{}';
alter table organization add column place_minutes int not null default 10 check (place_minutes between 0 and 120);
