-- More that is known of a place, and places that are not chosen any more.
alter table venues
  add column phone text not null default '',
  add column opening_hours text not null default '',
  add column set_up_minutes int not null default 0 check (set_up_minutes between 0 and 2880),
  add column retired_at timestamptz;
