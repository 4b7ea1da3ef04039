-- Who may register: ways in, each with its own time, or nobody has to. Guest lists are people by name; somebody is on a list once.
alter table events add admission jsonb not null
  default '{"ways": [{"kind": "everyone", "unitIds": [], "opensLocal": null, "closesLocal": null}], "noReply": false}';
create table guest_lists (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  name text not null check (name <> ''),
  free boolean not null default false,
  over_capacity boolean not null default false,
  created_at timestamptz not null
);
create index guest_lists_event on guest_lists (event_id, created_at);
create table guest_list_people (
  id uuid primary key,
  list_id uuid not null references guest_lists (id) on delete cascade,
  contact_id uuid not null references contacts (id),
  added_at timestamptz not null,
  unique (list_id, contact_id)
);
create index guest_list_people_contact on guest_list_people (contact_id);
