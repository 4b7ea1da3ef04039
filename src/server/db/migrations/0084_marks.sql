-- Marks at the doors are facts that merge in whatever order they are told: taking back names what it takes back.
alter table attendance_marks
  add column undoes uuid[] not null default '{}',
  -- The device it was made on, as it calls itself.
  add column device text not null default '',
  -- Where it was, where whoever said so agreed.
  add column latitude double precision,
  add column longitude double precision,
  -- When the server heard of it.
  add column told_at timestamptz;
update attendance_marks set told_at = at;
alter table attendance_marks alter column told_at set not null;
-- Until now a mark that took back took back everything before it.
update attendance_marks m set undoes = coalesce((select array_agg(o.id) from attendance_marks o
  where o.registration_id = m.registration_id and o.state <> 'expected' and (o.at, o.id) < (m.at, m.id)), '{}')
where m.state = 'expected';
-- Arrivals that were kept without a mark have one.
insert into attendance_marks (id, registration_id, state, at, actor, told_at)
  select gen_random_uuid(), a.registration_id, 'arrived', a.arrived_at, '', a.arrived_at from attendance a
  where a.state in ('arrived', 'left') and a.arrived_at is not null
    and not exists (select 1 from attendance_marks m where m.registration_id = a.registration_id);
insert into attendance_marks (id, registration_id, state, at, actor, told_at)
  select gen_random_uuid(), a.registration_id, 'left', a.left_at, '', a.left_at from attendance a
  where a.state = 'left' and a.left_at is not null
    and not exists (select 1 from attendance_marks m where m.registration_id = a.registration_id and m.state = 'left');

-- The poster of an event leads to where people say themselves that they are here.
alter table links drop constraint links_kind_check;
alter table links add constraint links_kind_check
  check (kind in ('manage', 'crew', 'survey', 'preview', 'own', 'seat', 'feed', 'invited', 'gift', 'pledge', 'receipt', 'out', 'follow', 'application', 'signed', 'here'));
