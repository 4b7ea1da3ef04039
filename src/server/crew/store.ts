import type { CrewShift } from '#contract/crew.ts';
import type { QuietReason } from '#core/contacts/quiet.ts';
import type { HeldSkill, Stint } from '#core/crew/against.ts';
import type { Presence } from '#core/crew/serving.ts';
import { type AssignmentState, onOrAsked, onShift } from '#core/crew/states.ts';
import { whyQuiet } from '../contacts/quiet.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { isoSql } from '../db/iso.ts';
import { endSql } from '../events/end.ts';
import { notFound } from '../http/problem.ts';
import { spotSql } from './spots.ts';

export interface ShiftRow
  extends Omit<CrewShift, 'assignments' | 'filled' | 'lead' | 'waiting' | 'asking' | 'searched'> {
  eventId: string;
}

const shiftColumns = `s.id, s.event_id, s.name, s.role, s.place, s.starts_local, s.ends_local, s.starts_at, s.ends_at, s.least, s.wished, s.importance,
  s.briefing, s.lead_id, s.public_sign_up, s.version`;

/** A shift, where it is still there. */
export const shiftThere = (tx: Queries, id: string, lock = false): Promise<ShiftRow | null> =>
  first<ShiftRow>(
    tx,
    `select ${shiftColumns} from shifts s where s.id = $1 and s.removed_at is null ${lock ? 'for update' : ''}`,
    [id],
  );

export async function readShift(tx: Queries, id: string, lock = false): Promise<ShiftRow> {
  const row = await shiftThere(tx, id, lock);
  if (!row) throw notFound('This shift');
  return row;
}

/** The shifts of an event with who is, or was, on them. */
export const readShifts = (tx: Queries, eventId: string): Promise<CrewShift[]> =>
  tx.query<CrewShift>(
    `select ${shiftColumns.replace('s.event_id, ', '')},
       (select trim(l.given_name || ' ' || l.family_name) from contacts l where l.id = s.lead_id) as lead,
       (select count(*)::int from assignments a where a.shift_id = s.id and a.state in ${among(onShift)}) as filled,
       (select count(*)::int from shift_waits w where w.shift_id = s.id) as waiting,
       (select count(*)::int from step_in_asks k where k.shift_id = s.id and k.state = 'asked') as asking,
       (select q.ended_how from step_in_searches q where q.shift_id = s.id order by q.begun_at desc, q.id desc limit 1) as searched,
       coalesce((select jsonb_agg(jsonb_build_object('id', a.id, 'contactId', a.contact_id, 'name', trim(c.given_name || ' ' || c.family_name),
           'quiet', ${whyQuiet('c')}, 'state', a.state, 'source', a.source, 'overrideReason', a.override_reason, 'hours', a.hours, 'inAt', ${isoSql('a.in_at')}, 'outAt', ${isoSql('a.out_at')}, 'corrections', coalesce((select jsonb_agg(jsonb_build_object('at', ${isoSql('h.at')}, 'by', h.by, 'before', h.before, 'after', h.after, 'why', h.why) order by h.at, h.id) from hour_corrections h where h.assignment_id = a.id), '[]'), 'against', '[]'::jsonb) order by a.made_at, a.id)
         from assignments a join contacts c on c.id = a.contact_id where a.shift_id = s.id and a.state in ${among(onOrAsked)}), '[]') as assignments
     from shifts s where s.event_id = $1 and s.removed_at is null order by s.starts_at, s.role, s.id`,
    [eventId],
  );

/** Where somebody stands already, across all events, around a stretch of time. */
export const readStints = (tx: Queries, contactId: string, from: string, to: string): Promise<Stint[]> =>
  tx.query<Stint>(
    `select s.id as shift_id, s.role || ' (' || e.public_title || ')' as label, s.starts_at, s.ends_at, ${spotSql('s', 'e')} as spot
     from assignments a join shifts s on s.id = a.shift_id join events e on e.id = s.event_id
     where a.contact_id = $1 and a.state in ('proposed', 'agreed') and s.ends_at > $2::timestamptz - interval '1 day' and s.starts_at < $3::timestamptz + interval '1 day'`,
    [contactId, from, to],
  );

/** Whether as many are on a shift as are wished; `asked too` counts whoever is asked to step in, for whom a place is kept. */
export async function isFull(tx: Queries, shift: ShiftRow, of: 'on' | 'asked too' = 'on'): Promise<boolean> {
  const taken = await first<{ on: number; asked: number }>(
    tx,
    `select (select count(*)::int from assignments where shift_id = $1 and state in ${among(onShift)}) as on,
       (select count(*)::int from step_in_asks where shift_id = $1 and state = 'asked') as asked`,
    [shift.id],
  );
  return taken!.on + (of === 'on' ? 0 : taken!.asked) >= shift.wished;
}

/** Takes somebody off a shift, with what they said where they did; whoever led it leads it no more. */
export async function takeOffShift(tx: Queries, assignmentId: string, at: string, words = ''): Promise<void> {
  await tx.query(
    "update assignments set state = 'dropped', hours = null, dropped_at = $2, dropped_words = $3 where id = $1",
    [assignmentId, at, words],
  );
  await tx.query(
    'update shifts s set lead_id = null from assignments a where a.id = $1 and s.id = a.shift_id and s.lead_id = a.contact_id',
    [assignmentId],
  );
}

/** The assignment by which somebody is on a shift; null when they are not. */
export const assignmentOn = (
  tx: Queries,
  shiftId: string,
  contactId: string,
): Promise<{ id: string } | null> =>
  first<{ id: string }>(
    tx,
    `select id from assignments where shift_id = $1 and contact_id = $2 and state in ${among(onOrAsked)}`,
    [shiftId, contactId],
  );

/** True while somebody is on a shift. */
export const isTaken = async (tx: Queries, shiftId: string): Promise<boolean> =>
  (await first(
    tx,
    `select 1 as x from assignments where shift_id = $1 and state in ${among(onOrAsked)} limit 1`,
    [shiftId],
  )) !== null;

/** True while somebody is asked to step in on a shift. */
export const isAskedFor = async (tx: Queries, shiftId: string): Promise<boolean> =>
  (await first(tx, "select 1 as x from step_in_asks where shift_id = $1 and state = 'asked' limit 1", [
    shiftId,
  ])) !== null;

export const readAssignment = (
  tx: Queries,
  id: string,
): Promise<({ shiftId: string; contactId: string; state: AssignmentState } & Presence) | null> =>
  first<{ shiftId: string; contactId: string; state: AssignmentState } & Presence>(
    tx,
    'select shift_id, contact_id, state, in_at, out_at from assignments where id = $1',
    [id],
  );

/** The title of an event at which somebody has a seat in some time; null when at none. */
export const seatMeanwhile = async (
  tx: Queries,
  contactId: string,
  from: string,
  to: string,
): Promise<string | null> =>
  (
    await first<{ title: string }>(
      tx,
      `select e.public_title as title from registrations r join events e on e.id = r.event_id
       where r.contact_id = $1 and r.state = 'confirmed' and e.starts_at < $3 and ${endSql('e')} > $2 limit 1`,
      [contactId, from, to],
    )
  )?.title ?? null;

/** What of a contact decides which shifts they can be on; null when there is none. */
export const readAble = (
  tx: Queries,
  contactId: string,
): Promise<{ birthDate: string | null; quiet: QuietReason | null; skills: HeldSkill[] } | null> =>
  first<{ birthDate: string | null; quiet: QuietReason | null; skills: HeldSkill[] }>(
    tx,
    `select c.birth_date, ${whyQuiet('c')} as quiet, coalesce((select jsonb_agg(jsonb_build_object('skillId', h.skill_id, 'until', h.until, 'seen', h.seen_at is not null)
       order by h.skill_id) from held_skills h where h.contact_id = c.id), '[]') as skills from contacts c where c.id = $1`,
    [contactId],
  );

/** Who is on a shift, or asked for it. */
export const readOnShift = (
  tx: Queries,
  shiftId: string,
): Promise<{ id: string; contactId: string; name: string; state: AssignmentState }[]> =>
  tx.query<{ id: string; contactId: string; name: string; state: AssignmentState }>(
    `select a.id, a.contact_id, a.state, trim(c.given_name || ' ' || c.family_name) as name from assignments a join contacts c on c.id = a.contact_id
     where a.shift_id = $1 and a.state in ('proposed', 'agreed') order by a.made_at, a.id`,
    [shiftId],
  );

export interface OwnShiftRow extends ShiftRow {
  assignmentId: string;
  state: string;
  event: string;
  slug: string | null;
  zone: string;
  venue: string | null;
  filled: number;
  eventVersion: number;
  hours: number | null;
  address: string | null;
  latitude: number | null;
  longitude: number | null;
  source: 'staff' | 'public';
  /** Other shifts they would have in its place. */
  wants: string[];
  /** What its role is about. */
  brief: string;
  /** Who leads it, and the number by which they are reached. */
  lead: string | null;
  leadPhone: string | null;
}

/** The shifts somebody is, or was, on, soonest first. */
export const ownShifts = (tx: Queries, contactId: string): Promise<OwnShiftRow[]> =>
  tx.query<OwnShiftRow>(
    `select a.id as assignment_id, a.state, a.source, a.hours, ${shiftColumns},
       coalesce((select array_agg(x.shift_id order by x.said_at, x.shift_id) from swap_wishes x where x.assignment_id = a.id), '{}') as wants,
       (select count(*)::int from assignments x where x.shift_id = s.id and x.state in ${among(onShift)}) as filled,
       e.public_title as event, e.slug, e.zone, e.version as event_version, v.name as venue, v.address, v.latitude, v.longitude,
       coalesce(r.brief, '') as brief, trim(l.given_name || ' ' || l.family_name) as lead, (select p.phone from contact_phones p where p.contact_id = l.id and p.ended_on is null order by p.position limit 1) as lead_phone
     from assignments a join shifts s on s.id = a.shift_id join events e on e.id = s.event_id left join venues v on v.id = e.venue_id left join contacts l on l.id = s.lead_id
       left join roles r on r.name = s.role
     where a.contact_id = $1 and a.state in ${among(onOrAsked)} and e.state <> 'called off' order by s.starts_at`,
    [contactId],
  );

/** When a shift is, as wall times where the event is. */
interface ShiftTimes {
  id: string;
  startsLocal: string;
  endsLocal: string;
}

export const shiftTimes = (tx: Queries, eventId: string): Promise<(ShiftTimes & { role: string })[]> =>
  tx.query<ShiftTimes & { role: string }>(
    'select id, role, starts_local, ends_local from shifts where event_id = $1 and removed_at is null',
    [eventId],
  );

/** Puts shifts at other times, all at once. */
export async function moveShiftTimes(
  tx: Queries,
  moved: readonly (ShiftTimes & { startsAt: string; endsAt: string })[],
): Promise<void> {
  if (moved.length)
    await tx.query(
      `update shifts s set starts_local = m."startsLocal", ends_local = m."endsLocal", starts_at = m."startsAt", ends_at = m."endsAt"
       from jsonb_to_recordset($1::jsonb) as m(id uuid, "startsLocal" timestamp, "endsLocal" timestamp, "startsAt" timestamptz, "endsAt" timestamptz)
       where m.id = s.id`,
      [JSON.stringify(moved)],
    );
}

/** Removes a shift: retired where somebody was ever on it, deleted where nobody was. */
export async function dropShift(tx: Queries, id: string, at: string): Promise<void> {
  await tx.query(
    'update shifts s set removed_at = $2 where id = $1 and exists (select 1 from assignments a where a.shift_id = s.id)',
    [id, at],
  );
  await tx.query('delete from shift_waits where shift_id = $1', [id]);
  await tx.query('delete from shifts where id = $1 and removed_at is null', [id]);
}
