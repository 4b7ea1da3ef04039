-- Diaries that others keep of our places: what is taken there is warned about.
create table diaries (
  id uuid primary key,
  venue_id uuid not null references venues (id) on delete cascade,
  -- Null: of the whole place.
  room_id uuid references rooms (id) on delete cascade,
  name text not null check (length(name) between 1 and 120),
  -- Where it is read from again and again; null for a file that was brought in.
  address text,
  read_at timestamptz,
  read_again_at timestamptz,
  -- What became of the last reading: a code; null where it was read.
  problem text,
  entries int not null default 0,
  unread int not null default 0,
  unknown_zones text[] not null default '{}',
  created_at timestamptz not null
);
create index diaries_venue on diaries (venue_id);
create index diaries_again on diaries (read_again_at) where read_again_at is not null;

create table diary_entries (
  diary_id uuid not null references diaries (id) on delete cascade,
  during tstzrange not null,
  summary text not null,
  tentative boolean not null
);
create index diary_entries_during on diary_entries using gist (diary_id, during);

-- What the stand-in of other people's diaries answers under an address.
create table standin_diaries (address text primary key, content text not null);
