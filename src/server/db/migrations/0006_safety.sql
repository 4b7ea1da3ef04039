-- A note is its author's: changed by whoever wrote it, or by a coordinator.
alter table contact_notes add column author_id uuid references staff (id);
update contact_notes n set author_id = s.id from staff s where s.name = n.author;

-- Who read what about somebody's health, and where.
create table care_reads (
  id uuid primary key,
  at timestamptz not null,
  staff_id uuid references staff (id),
  actor text not null,
  place text not null,
  contact_id uuid references contacts (id) on delete cascade,
  registration_id uuid references registrations (id) on delete cascade,
  event_id uuid references events (id) on delete cascade
);
create index care_reads_contact on care_reads (contact_id, at);
create index care_reads_at on care_reads (at desc);

-- A public link can be stopped, and another one put in its place.
alter table links add column renewals int not null default 0;
