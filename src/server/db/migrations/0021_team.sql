-- Who works on one event beyond their roles, and which units it belongs to beside its own.
create table event_team (
  id uuid primary key,
  event_id uuid not null references events (id) on delete cascade,
  -- One of the two: somebody who has an account, or who was invited to one.
  staff_id uuid references staff (id) on delete cascade,
  invitation_id uuid references staff_invitations (id) on delete cascade,
  part text not null check (part in ('lead', 'co-organizer', 'helper')),
  stage text check (stage in ('plan', 'clearance', 'registration', 'crew', 'messages', 'doors', 'wrap-up')),
  added_at timestamptz not null,
  added_by text not null,
  check (num_nulls(staff_id, invitation_id) = 1),
  check ((part = 'helper') = (stage is not null))
);
create unique index event_team_once on event_team (event_id, staff_id, coalesce(stage, '')) where staff_id is not null;
create unique index event_team_lead on event_team (event_id) where part = 'lead';
create index event_team_staff on event_team (staff_id) where staff_id is not null;
create index event_team_invitation on event_team (invitation_id) where invitation_id is not null;

alter table events add column partner_ids uuid[] not null default '{}';
