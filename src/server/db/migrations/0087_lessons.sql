-- What was learnt at an event, for whoever plans it the next time.
create table lessons (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  -- The stage it concerns.
  stage text not null check (stage in ('plan', 'clearance', 'registration', 'crew', 'messages', 'doors', 'wrap-up')),
  text text not null check (text <> ''),
  author text not null,
  staff_id uuid references staff (id),
  at timestamptz not null
);
create index lessons_event on lessons (event_id, at);
-- That it was taken care of, at one of the events that came after.
create table lessons_settled (
  lesson_id uuid not null references lessons (id) on delete cascade,
  event_id uuid not null references events (id) on delete cascade,
  actor text not null,
  at timestamptz not null,
  primary key (lesson_id, event_id)
);
create index lessons_settled_event on lessons_settled (event_id);
