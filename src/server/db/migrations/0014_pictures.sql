-- Pictures of the organization, each in the sizes it is shown in.
create table pictures (
  id uuid primary key,
  alt jsonb not null,
  width int not null check (width > 0),
  height int not null check (height > 0),
  focus_x real not null default 0.5 check (focus_x between 0 and 1),
  focus_y real not null default 0.5 check (focus_y between 0 and 1),
  -- Of what was brought in, how it was cut and described, and for which unit: the same is kept once.
  digest text not null unique,
  at timestamptz not null,
  by text not null,
  brought_by uuid references staff (id)
);
create table picture_sizes (
  picture_id uuid not null references pictures (id) on delete cascade,
  width int not null,
  kind text not null check (kind in ('webp', 'jpg')),
  content bytea not null,
  primary key (picture_id, width, kind)
);
alter table events
  add column banner_id uuid references pictures (id),
  add column gallery uuid[] not null default '{}';
