-- Guests fill in their own seat by a link of theirs; until so many days before the event. Who is still missing is asked for once.
alter table links drop constraint links_kind_check;
alter table links add check (kind in ('manage', 'crew', 'survey', 'preview', 'own', 'seat'));
alter table registrations
  add guest_email text,
  -- How often they were written to, and when they filled it in themselves.
  add guest_asked int not null default 0,
  add guest_filled_at timestamptz;
alter table events add names_days int not null default 0 check (names_days between 0 and 365);
alter table orders add names_chased_at timestamptz;
create index orders_not_chased on orders (event_id) where names_chased_at is null;
