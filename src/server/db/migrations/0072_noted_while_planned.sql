-- Whoever is noted already, to be planned anew, is locked all the same when something of theirs changes: who plans theirs meanwhile, without
-- seeing this change yet, must not tick it off.
create or replace function year_round_had() returns trigger language plpgsql as $$
begin
  if year_round_has_lines() then
    insert into year_round_stale (contact_id) select distinct c.id from changed x join contacts c on c.id = x.contact_id order by 1
      on conflict (contact_id) do update set contact_id = excluded.contact_id;
  end if;
  return null;
end $$;
create or replace function year_round_reached() returns trigger language plpgsql as $$
begin
  if year_round_has_lines() then
    insert into year_round_stale (contact_id) select distinct c.id from changed x join contacts c on c.id = x.contact_id
      where exists (select 1 from memberships where contact_id = c.id) or exists (select 1 from donations where contact_id = c.id) order by 1
      on conflict (contact_id) do update set contact_id = excluded.contact_id;
  end if;
  return null;
end $$;
create or replace function year_round_changed() returns trigger language plpgsql as $$
begin
  if year_round_has_lines() then
    insert into year_round_stale (contact_id) select c.id from changed c join before b on b.id = c.id
      where (c.do_not_contact, c.deceased_on, c.erased_at, c.zone, c.household_id) is distinct from (b.do_not_contact, b.deceased_on, b.erased_at, b.zone, b.household_id)
        and (exists (select 1 from memberships where contact_id = c.id) or exists (select 1 from donations where contact_id = c.id)) order by 1
      on conflict (contact_id) do update set contact_id = excluded.contact_id;
  end if;
  return null;
end $$;
