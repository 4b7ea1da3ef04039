import type { TeamMember } from '#contract/duties.ts';
import type { DutyPart } from '#core/access/duties.ts';
import type { Stage } from '#core/events/states.ts';
import { first, type Queries } from '../db/database.ts';

export interface MemberRow extends Omit<TeamMember, 'mine'> {
  staffId: string | null;
  invitationId: string | null;
}

/** Who works on an event, the lead first. An invitation that lapsed or was taken back is none. */
export const readTeam = (tx: Queries, eventId: string, now: string): Promise<MemberRow[]> =>
  tx.query<MemberRow>(
    `select t.id, t.part, t.stage, coalesce(s.name, i.name) as name, coalesce(s.email, i.email) as email, t.staff_id is null as invited,
       t.staff_id, t.invitation_id
     from event_team t left join staff s on s.id = t.staff_id left join staff_invitations i on i.id = t.invitation_id
     where t.event_id = $1 and (s.id is not null and not s.resting or i.revoked_at is null and i.expires_at > $2)
     order by array_position(array['lead', 'co-organizer', 'helper'], t.part), t.stage, coalesce(s.name, i.name)`,
    [eventId, now],
  );

/** An invitation to the staff that can still be accepted, by address. */
export const openInvitation = (tx: Queries, emailKey: string, now: string): Promise<{ id: string } | null> =>
  first<{ id: string }>(
    tx,
    `select id from staff_invitations where lower(trim(email)) = $1 and accepted_at is null and revoked_at is null and expires_at > $2
     order by created_at desc limit 1`,
    [emailKey, now],
  );

/** Who leads an event becomes one of its co-organizers: another leads it now. */
export const stepBack = (tx: Queries, eventId: string): Promise<unknown> =>
  tx.query("update event_team set part = 'co-organizer' where event_id = $1 and part = 'lead'", [eventId]);

export const takeOff = (tx: Queries, id: string): Promise<unknown> =>
  tx.query('delete from event_team where id = $1', [id]);

/** What somebody is at an event already: one part, or one stage of a helper. */
export const readPartOf = (
  tx: Queries,
  eventId: string,
  who: { staffId: string | null; invitationId: string | null },
): Promise<{ id: string; part: DutyPart; stage: Stage | null }[]> =>
  tx.query<{ id: string; part: DutyPart; stage: Stage | null }>(
    'select id, part, stage from event_team where event_id = $1 and (staff_id = $2 or invitation_id = $3)',
    [eventId, who.staffId, who.invitationId],
  );

/** Who organizes an event organizes another too, as far as they have an account in use. Helpers were there for the one event. */
export const copyTeam = (tx: Queries, from: string, to: string, now: string, by: string): Promise<unknown> =>
  tx.query(
    `insert into event_team (id, event_id, staff_id, part, stage, added_at, added_by)
     select gen_random_uuid(), $2, t.staff_id, t.part, t.stage, $3, $4 from event_team t join staff s on s.id = t.staff_id
     where t.event_id = $1 and t.part <> 'helper' and not s.resting on conflict do nothing`,
    [from, to, now, by],
  );

/** True where an invitation is for a role, or for another event, too. */
export const isForMore = async (tx: Queries, invitationId: string): Promise<boolean> =>
  (await first(
    tx,
    `select 1 as x from staff_invitations i where i.id = $1 and (cardinality(i.roles) > 0
       or exists (select 1 from event_team t where t.invitation_id = i.id))`,
    [invitationId],
  )) !== null;
