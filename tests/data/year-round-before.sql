-- Lines of the organization hang on what people have with it, at any time of the year, and on no event.
alter table message_lines alter column event_id drop not null,
  add topic text check (topic in ('notice', 'newsletter', 'invitations', 'appeals')),
  add version int not null default 0,
  add check ((event_id is null) = (topic is not null));
update change_rows set before = '{"version": 0}'::jsonb || before where of = 'message_lines' and after is null;

-- Whose messages of those lines are to be planned anew: what they have with the organization changed, or how they are reached,
-- by whatever way that was.
create table year_round_stale (contact_id uuid primary key references contacts (id) on delete cascade);
create function year_round_has_lines() returns boolean language sql stable as $$
  select exists (select 1 from message_lines where event_id is null and removed_at is null) $$;

-- Of what they have, once a statement: what is brought in comes by the thousand. One that is noted already is locked all the same: whoever
-- plans theirs meanwhile, without seeing this yet, must not tick it off.
create function year_round_had() returns trigger language plpgsql as $$
begin
  if year_round_has_lines() then
    insert into year_round_stale (contact_id) select distinct c.id from changed x join contacts c on c.id = x.contact_id order by 1
      on conflict (contact_id) do update set contact_id = excluded.contact_id;
  end if;
  return null;
end $$;

-- Of themselves, as far as they have something.
create function year_round_reached() returns trigger language plpgsql as $$
begin
  if year_round_has_lines() then
    insert into year_round_stale (contact_id) select distinct c.id from changed x join contacts c on c.id = x.contact_id
      where exists (select 1 from memberships where contact_id = c.id) or exists (select 1 from donations where contact_id = c.id) order by 1
      on conflict (contact_id) do update set contact_id = excluded.contact_id;
  end if;
  return null;
end $$;
create function year_round_changed() returns trigger language plpgsql as $$
begin
  if year_round_has_lines() then
    insert into year_round_stale (contact_id) select c.id from changed c join before b on b.id = c.id
      where (c.do_not_contact, c.deceased_on, c.erased_at, c.zone, c.household_id) is distinct from (b.do_not_contact, b.deceased_on, b.erased_at, b.zone, b.household_id)
        and (exists (select 1 from memberships where contact_id = c.id) or exists (select 1 from donations where contact_id = c.id)) order by 1
      on conflict (contact_id) do update set contact_id = excluded.contact_id;
  end if;
  return null;
end $$;
do $$
declare
  of record;
begin
  for of in select * from (values ('memberships', 'year_round_had'), ('donations', 'year_round_had'), ('contact_emails', 'year_round_reached'),
    ('contact_phones', 'year_round_reached'), ('consents', 'year_round_reached')) x (tab, fn) loop
    execute format('create trigger %I_put_year_round after insert on %I referencing new table as changed for each statement execute function %I()', of.tab, of.tab, of.fn);
    execute format('create trigger %I_set_year_round after update on %I referencing new table as changed for each statement execute function %I()', of.tab, of.tab, of.fn);
    execute format('create trigger %I_gone_year_round after delete on %I referencing old table as changed for each statement execute function %I()', of.tab, of.tab, of.fn);
  end loop;
end $$;
create trigger contacts_set_year_round after update on contacts referencing old table as before new table as changed
  for each statement execute function year_round_changed();
