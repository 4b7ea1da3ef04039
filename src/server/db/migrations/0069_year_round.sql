-- Lines of the organization hang on what people have with it, at any time of the year, and on no event.
alter table message_lines alter column event_id drop not null,
  add topic text check (topic in ('notice', 'newsletter', 'invitations', 'appeals')),
  add version int not null default 0,
  add check ((event_id is null) = (topic is not null));
update change_rows set before = '{"version": 0}'::jsonb || before where of = 'message_lines' and after is null;

-- Whose messages of those lines are to be planned anew: what they have with the organization changed, or how they are reached,
-- by whatever way that was.
create table year_round_stale (contact_id uuid primary key references contacts (id) on delete cascade);
create function year_round_stale(who uuid) returns void language sql as $$
  insert into year_round_stale (contact_id) select c.id from contacts c
    where c.id = who and exists (select 1 from message_lines where event_id is null and removed_at is null)
  on conflict do nothing $$;

-- Of what they have.
create function year_round_had() returns trigger language plpgsql as $$
begin
  if tg_op <> 'INSERT' then perform year_round_stale(old.contact_id); end if;
  if tg_op <> 'DELETE' then perform year_round_stale(new.contact_id); end if;
  return null;
end $$;
create trigger memberships_planned after insert or update or delete on memberships for each row execute function year_round_had();
create trigger donations_planned after insert or update on donations for each row execute function year_round_had();

-- Of themselves, as far as they have something.
create function year_round_reached() returns trigger language plpgsql as $$
declare
  row jsonb := to_jsonb(case when tg_op = 'DELETE' then old else new end);
  who uuid := coalesce(row ->> 'contact_id', row ->> 'id');
begin
  if exists (select 1 from memberships where contact_id = who) or exists (select 1 from donations where contact_id = who) then
    perform year_round_stale(who);
  end if;
  return null;
end $$;
create trigger contact_emails_planned after insert or update or delete on contact_emails for each row execute function year_round_reached();
create trigger contact_phones_planned after insert or update or delete on contact_phones for each row execute function year_round_reached();
create trigger consents_planned after insert or update or delete on consents for each row execute function year_round_reached();
create trigger contacts_planned after update of do_not_contact, deceased_on, erased_at, zone, household_id on contacts for each row execute function year_round_reached();
