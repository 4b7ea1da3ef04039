-- The list of contacts opens in the order of names: read from here it need not sort everybody first.
create index contacts_by_name on contacts (lower(family_name), family_name, given_name, id)
  where merged_into is null and erased_at is null;

-- The most seats a unit of an offer ever had. Where that is one, its seats are its units, and counting them needs no table but an index.
alter table offers add column widest_unit int not null default 1;
update offers o set widest_unit = greatest(o.seats_per_unit, (select coalesce(max(u.seats), 1) from (
  select count(*) as seats from registrations r where r.event_id = o.event_id and r.offer_id = o.id group by r.order_id, r.unit_number) u));
create function unit_widened() returns trigger language plpgsql as $$
begin
  new.widest_unit := greatest(new.seats_per_unit, case when tg_op = 'UPDATE' then old.widest_unit else 1 end);
  return new;
end $$;
create trigger offers_unit_widened before insert or update on offers for each row execute function unit_widened();
