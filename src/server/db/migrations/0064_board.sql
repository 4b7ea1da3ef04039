-- A board of questions and answers of an event: on as long as there is a row, each question shown at once or once somebody of the team says so.
create table event_boards (
  event_id uuid primary key references events (id) on delete cascade,
  shown text not null check (shown in ('at once', 'once looked at')),
  -- Who answers; nobody in particular where it is null.
  answers_by uuid references staff (id) on delete set null
);
create table board_questions (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  name text not null,
  email text not null,
  language text not null default 'en',
  words text not null check (words <> ''),
  asked_at timestamptz not null,
  state text not null check (state in ('waits', 'shown', 'hidden')),
  answer text not null default '',
  answered_at timestamptz,
  answered_by text not null default ''
);
create index board_questions_event on board_questions (event_id, asked_at);
create index board_questions_open on board_questions (asked_at) where answered_at is null and state <> 'hidden';
