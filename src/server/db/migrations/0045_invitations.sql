-- An invitation is answered, may be for more than one, and has a link of its own.
alter table event_invited add column companions int not null default 0 check (companions between 0 and 50);
alter table event_invited add column answer text check (answer in ('yes', 'perhaps', 'no'));
alter table event_invited add column words text not null default '';
alter table event_invited add column answered_at timestamptz;
-- How often they were written to.
alter table event_invited add column written int not null default 0;
alter table event_invited add check ((answer is null) = (answered_at is null));
alter table links drop constraint links_kind_check;
alter table links add constraint links_kind_check
  check (kind in ('manage', 'crew', 'survey', 'preview', 'own', 'seat', 'feed', 'invited'));
-- What whoever is invited can answer, beside coming.
update events set admission = admission || '{"reply": "yes or no"}' where not admission ? 'reply';
alter table events alter column admission
  set default '{"ways": [{"kind": "everyone", "unitIds": [], "opensLocal": null, "closesLocal": null}], "noReply": false, "accepts": false, "reply": "yes or no"}';
-- Whoever booked already has answered.
update event_invited i set answer = 'yes', answered_at = o.placed_at from orders o
  where o.event_id = i.event_id and i.contact_id in (o.buyer_contact_id, o.placed_by)
    and exists (select 1 from registrations r where r.order_id = o.id and r.state in ('asked', 'held', 'waitlisted', 'offered', 'confirmed'));
