-- Kinds of events and what draws people to them, each with its French, and kinds with a mark and a picture of their own.
create table kinds (
  id uuid primary key,
  sort text not null check (sort in ('category', 'draw')),
  name text not null check (length(name) between 1 and 60),
  french text not null default '',
  shape text not null default '',
  colour text not null default '',
  picture_id uuid references pictures (id)
);
create unique index kinds_name on kinds (sort, lower(name));

-- What stands in the plans so far.
insert into kinds (id, sort, name)
select gen_random_uuid(), 'category', c.name from (select distinct on (lower(category)) category as name from events where category <> '' order by lower(category), category) c
union all
select gen_random_uuid(), 'draw', d.name from (select distinct on (lower(x)) x as name from events, unnest(draws) x where x <> '' order by lower(x), x) d;
