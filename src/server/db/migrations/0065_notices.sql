-- What each of the team wants to be told of by email, and when; what is not here is not told.
create table notice_wishes (
  staff_id uuid not null references staff (id) on delete cascade,
  what text not null,
  told text not null check (told in ('soon', 'each morning')),
  primary key (staff_id, what)
);
alter table staff add notices_only_mine boolean not null default false, add notices_least_gift int not null default 0 check (notices_least_gift >= 0);

-- What happened and is still to be told. It goes into one message with all that has come together by then.
create table notices (
  id uuid primary key,
  staff_id uuid not null references staff (id) on delete cascade,
  told text not null,
  what text not null,
  event_id uuid references events (id) on delete cascade,
  -- Whom it concerns, as they were known then: they can ask to be forgotten while it waits.
  contact_id uuid,
  who text not null,
  count int,
  amount int,
  currency text,
  words text not null default '',
  at timestamptz not null,
  goes_at timestamptz not null
);
create index notices_due on notices (goes_at, id);
