-- How many seats of an event are taken, held and waited for, and how many came, kept as they change: a list of all events would count
-- every seat there ever was.
create table event_counts (
  event_id uuid primary key references events (id) on delete cascade,
  confirmed int not null default 0,
  held int not null default 0,
  waitlisted int not null default 0,
  arrived int not null default 0
);

create function count_seats(ids uuid[], states text[], steps int[]) returns void language sql as $$
  insert into event_counts as c (event_id, confirmed, held, waitlisted)
    select d.id, coalesce(sum(d.step) filter (where d.state = 'confirmed'), 0),
      coalesce(sum(d.step) filter (where d.state in ('held', 'offered')), 0),
      coalesce(sum(d.step) filter (where d.state = 'waitlisted'), 0)
    from (select x.id, x.state, sum(x.step) as step from unnest(ids, states, steps) as x (id, state, step) group by 1, 2) d
    where d.step <> 0 and d.state in ('confirmed', 'held', 'offered', 'waitlisted') and exists (select 1 from events e where e.id = d.id)
    group by d.id
  on conflict (event_id) do update set confirmed = c.confirmed + excluded.confirmed, held = c.held + excluded.held,
    waitlisted = c.waitlisted + excluded.waitlisted
$$;
create function seats_counted_in() returns trigger language plpgsql as $$
begin
  perform count_seats(array_agg(event_id), array_agg(state), array_agg(1)) from changed;
  return null;
end $$;
create function seats_counted_up() returns trigger language plpgsql as $$
begin
  perform count_seats(array_agg(event_id), array_agg(state), array_agg(step)) from (
    select event_id, state, 1 as step from changed union all select event_id, state, -1 from gone) d;
  return null;
end $$;
create function seats_counted_out() returns trigger language plpgsql as $$
begin
  perform count_seats(array_agg(event_id), array_agg(state), array_agg(-1)) from gone;
  return null;
end $$;
create trigger seats_counted_in after insert on registrations referencing new table as changed
  for each statement execute function seats_counted_in();
create trigger seats_counted_up after update on registrations referencing old table as gone new table as changed
  for each statement execute function seats_counted_up();
create trigger seats_counted_out after delete on registrations referencing old table as gone
  for each statement execute function seats_counted_out();

create function count_arrived(ids uuid[], steps int[]) returns void language sql as $$
  insert into event_counts as c (event_id, arrived)
    select x.id, sum(x.step) from unnest(ids, steps) as x (id, step)
    where exists (select 1 from events e where e.id = x.id) group by 1 having sum(x.step) <> 0
  on conflict (event_id) do update set arrived = c.arrived + excluded.arrived
$$;
create function arrived_counted_in() returns trigger language plpgsql as $$
begin
  perform count_arrived(array_agg(event_id), array_agg(1)) from changed where state in ('arrived', 'left');
  return null;
end $$;
create function arrived_counted_up() returns trigger language plpgsql as $$
begin
  perform count_arrived(array_agg(event_id), array_agg(step)) from (
    select event_id, 1 as step from changed where state in ('arrived', 'left')
    union all select event_id, -1 from gone where state in ('arrived', 'left')) d;
  return null;
end $$;
create function arrived_counted_out() returns trigger language plpgsql as $$
begin
  perform count_arrived(array_agg(event_id), array_agg(-1)) from gone where state in ('arrived', 'left');
  return null;
end $$;
create trigger arrived_counted_in after insert on attendance referencing new table as changed
  for each statement execute function arrived_counted_in();
create trigger arrived_counted_up after update on attendance referencing old table as gone new table as changed
  for each statement execute function arrived_counted_up();
create trigger arrived_counted_out after delete on attendance referencing old table as gone
  for each statement execute function arrived_counted_out();

insert into event_counts (event_id, confirmed, held, waitlisted, arrived)
  select e.id, coalesce(r.confirmed, 0), coalesce(r.held, 0), coalesce(r.waitlisted, 0), coalesce(a.arrived, 0)
  from events e
    left join (select event_id, count(*) filter (where state = 'confirmed') as confirmed, count(*) filter (where state in ('held', 'offered')) as held,
        count(*) filter (where state = 'waitlisted') as waitlisted from registrations group by 1) r on r.event_id = e.id
    left join (select event_id, count(*) as arrived from attendance where state in ('arrived', 'left') group by 1) a on a.event_id = e.id
  where r.event_id is not null or a.event_id is not null;

-- What the Desk says of since yesterday.
create index registrations_confirmed on registrations (confirmed_at) where confirmed_at is not null;
create index registrations_withdrawn on registrations (ended_at) where state = 'withdrawn';
