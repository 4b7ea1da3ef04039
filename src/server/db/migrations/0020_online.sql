-- An online room beside the place, or instead of it, with seats of its own; offers in French.
alter table events
  -- { link, instructions: { en, fr } }; only who holds a seat there reads it.
  add column online jsonb,
  add column online_capacity int check (online_capacity between 1 and 100000),
  -- What becomes of a party that does not fit into the place.
  add column when_full text not null default 'waitlist' check (when_full in ('waitlist', 'turn away', 'online'));
alter table offers
  add column online boolean not null default false,
  -- { name, about }
  add column french jsonb not null default '{"name": "", "about": ""}';
