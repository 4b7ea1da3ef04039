-- What the organization says in letters that go out by themselves, each version kept; null where it said again what they say at first.
create table letter_texts (
  kind text not null,
  version int not null,
  said jsonb,
  set_at timestamptz not null,
  set_by text not null,
  primary key (kind, version)
);
