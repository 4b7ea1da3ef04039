-- Since when a certificate is written down as it is: whoever has it hears before it runs out.
alter table held_skills add column said_at timestamptz;
update held_skills h set said_at = coalesce(h.seen_at, c.created_at) from contacts c where c.id = h.contact_id;
alter table held_skills alter column said_at set not null;

-- Whoever has a certificate has something that lines of the organization hang on.
create function year_round_has(contact uuid) returns boolean language sql stable as $$
  select exists (select 1 from memberships where contact_id = contact) or exists (select 1 from donations where contact_id = contact)
    or exists (select 1 from held_skills where contact_id = contact and until is not null) $$;
create or replace function year_round_reached() returns trigger language plpgsql as $$
begin
  if year_round_has_lines() then
    insert into year_round_stale (contact_id) select distinct c.id from changed x join contacts c on c.id = x.contact_id
      where year_round_has(c.id) order by 1 on conflict (contact_id) do update set contact_id = excluded.contact_id;
  end if;
  return null;
end $$;
create or replace function year_round_changed() returns trigger language plpgsql as $$
begin
  if year_round_has_lines() then
    insert into year_round_stale (contact_id) select c.id from changed c join before b on b.id = c.id
      where (c.do_not_contact, c.deceased_on, c.erased_at, c.zone, c.household_id) is distinct from (b.do_not_contact, b.deceased_on, b.erased_at, b.zone, b.household_id)
        and year_round_has(c.id) order by 1 on conflict (contact_id) do update set contact_id = excluded.contact_id;
  end if;
  return null;
end $$;
create trigger held_skills_put_year_round after insert on held_skills referencing new table as changed for each statement execute function year_round_had();
create trigger held_skills_set_year_round after update on held_skills referencing new table as changed for each statement execute function year_round_had();
create trigger held_skills_gone_year_round after delete on held_skills referencing old table as changed for each statement execute function year_round_had();
