-- An offer has a waiver of its own, signed beside that of the event by whoever takes one of its seats.
alter table offers add column waiver_id uuid references waivers (id);
