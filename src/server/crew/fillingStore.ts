import type { HeldSkill } from '#core/crew/against.ts';
import type { Importance } from '#core/crew/importance.ts';
import { onShift } from '#core/crew/states.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { isoSql } from '../db/iso.ts';
import { endSql } from '../events/end.ts';
import { type AppliedRow, appliedSql } from './applyingStore.ts';

export interface FillerRow {
  contactId: string;
  name: string;
  birthDate: string | null;
  skills: HeldSkill[];
  applied: AppliedRow | null;
  elsewhere: { startsAt: string; endsAt: string }[];
  /** Whether nothing is sent to them, as they asked. */
  quiet: boolean;
}

/** Whoever was accepted for an event, by its own call or another, and whoever is on a shift of it that is still to come. */
export const readFillers = (tx: Queries, eventId: string, day: string, now: string): Promise<FillerRow[]> =>
  tx.query<FillerRow>(
    `with those as (
       select p.contact_id as id from applications p join calls k on k.id = p.call_id
         where p.state = 'accepted' and (k.event_id = $1 or k.event_id is null and (k.from_on is null or $2::date between k.from_on and k.until_on))
       union select a.contact_id from assignments a join shifts s on s.id = a.shift_id
         where s.event_id = $1 and s.removed_at is null and s.starts_at > $3 and a.state in ${among(onShift)})
     select c.id as contact_id, trim(c.given_name || ' ' || c.family_name) as name, c.birth_date, c.do_not_contact as quiet,
       coalesce((select jsonb_agg(jsonb_build_object('skillId', h.skill_id, 'until', h.until, 'seen', h.seen_at is not null) order by h.skill_id)
         from held_skills h where h.contact_id = c.id), '[]') as skills,
       ${appliedSql('c.id', '$1', '$2', "'00000000-0000-0000-0000-000000000000'::uuid")} as applied,
       coalesce((select jsonb_agg(jsonb_build_object('startsAt', ${isoSql('x.starts_at')}, 'endsAt', ${isoSql('x.ends_at')})) from (
         select s.starts_at, s.ends_at from assignments a join shifts s on s.id = a.shift_id
           where a.contact_id = c.id and a.state in ('proposed', 'agreed') and s.event_id <> $1 and s.removed_at is null and s.ends_at > $3
         union all select e.starts_at, ${endSql('e')} from registrations r join events e on e.id = r.event_id
           where r.contact_id = c.id and r.state = 'confirmed' and e.starts_at is not null and ${endSql('e')} > $3) x), '[]') as elsewhere
     from those join contacts c on c.id = those.id
     where c.merged_into is null and c.erased_at is null and c.deceased_on is null order by c.id limit 2000`,
    [eventId, day, now],
  );

export interface FillingShift {
  id: string;
  role: string;
  name: string;
  place: string;
  startsLocal: string;
  endsLocal: string;
  startsAt: string;
  endsAt: string;
  least: number;
  wished: number;
  importance: Importance;
  fromAge: number | null;
  needs: { id: string; name: string; certificate: boolean }[];
  /** Who gave it back, or was taken off. */
  not: string[];
  /** Who is on it. */
  on: string[];
}

/** The shifts of an event that are still to come, with what each asks. */
export const readToFill = (tx: Queries, eventId: string, now: string): Promise<FillingShift[]> =>
  tx.query<FillingShift>(
    `select s.id, s.role, s.name, s.place, s.starts_local, s.ends_local, s.starts_at, s.ends_at, s.least, s.wished, s.importance, r.from_age,
       coalesce((select jsonb_agg(jsonb_build_object('id', k.id, 'name', k.name, 'certificate', k.certificate) order by k.name)
         from role_needs n join skills k on k.id = n.skill_id where n.role = r.name), '[]') as needs,
       coalesce((select array_agg(distinct a.contact_id) from assignments a where a.shift_id = s.id and a.state = 'dropped'
         and not exists (select 1 from assignments o where o.shift_id = s.id and o.contact_id = a.contact_id and o.state <> 'dropped')), '{}') as not,
       coalesce((select array_agg(a.contact_id order by a.made_at, a.id) from assignments a where a.shift_id = s.id and a.state in ${among(onShift)}), '{}') as on
     from shifts s join roles r on r.name = s.role where s.event_id = $1 and s.removed_at is null and s.starts_at > $2 order by s.starts_at, s.id`,
    [eventId, now],
  );

export const readPairsAmong = (
  tx: Queries,
  ids: readonly string[],
): Promise<{ contactId: string; otherId: string; kind: 'together' | 'apart' }[]> =>
  tx.query<{ contactId: string; otherId: string; kind: 'together' | 'apart' }>(
    'select contact_id, other_id, kind from crew_pairs where contact_id = any($1) and other_id = any($1) order by said_at, id',
    [ids],
  );

/** Roles by their ids, as they are called now. */
export const roleNames = async (tx: Queries): Promise<ReadonlyMap<string, string>> =>
  new Map(
    (await tx.query<{ id: string; name: string }>('select id, name from roles order by name')).map((r) => [
      r.id,
      r.name,
    ]),
  );

export interface Proposed {
  /** Who was proposed for what. */
  pairs: [contactId: string, shiftId: string][];
  unfilled: {
    shiftId: string;
    missing: number;
    wish: boolean;
    why: string;
    cheapest: string | null;
    frees: string[];
  }[];
  gap: number;
  people: number;
  took: number;
}
interface Progress {
  so: { least: number; wished: number; wishes: number };
  bound: { least: number; wished: number; wishes: number };
  seconds: number;
}
export interface RunRow {
  id: string;
  eventId: string;
  state: 'working' | 'done' | 'failed';
  askedBy: string;
  askedAt: string;
  seconds: number;
  seenAt: string;
  stop: boolean;
  progress: Progress | null;
  answer: Proposed | null;
}

export const readRun = (tx: Queries, eventId: string, lock = false): Promise<RunRow | null> =>
  first<RunRow>(
    tx,
    `select id, event_id, state, asked_by, asked_at, seconds, seen_at, stop, progress, answer from roster_runs where event_id = $1 ${lock ? 'for update' : ''}`,
    [eventId],
  );

/** Begins a run in the place of the one before. */
export const putRun = (
  tx: Queries,
  r: { id: string; eventId: string; by: string; at: string; seconds: number; seenAt: string },
): Promise<unknown> =>
  tx.query(
    `insert into roster_runs (id, event_id, state, asked_by, asked_at, seconds, seen_at) values ($1, $2, 'working', $3, $4, $5, $6)
     on conflict (event_id) do update set id = excluded.id, state = 'working', asked_by = excluded.asked_by, asked_at = excluded.asked_at,
       seconds = excluded.seconds, seen_at = excluded.seen_at, stop = false, progress = null, answer = null`,
    [r.id, r.eventId, r.by, r.at, r.seconds, r.seenAt],
  );

export const askToStop = (tx: Queries, eventId: string): Promise<unknown> =>
  tx.query("update roster_runs set stop = true where event_id = $1 and state = 'working'", [eventId]);

/** Says how far a run is. Answers whether it is to end with what it has, also where it was set aside. */
export async function noteProgress(
  tx: Queries,
  id: string,
  progress: Progress | null,
  seenAt: string,
): Promise<boolean> {
  const [row] = await tx.query<{ stop: boolean }>(
    'update roster_runs set progress = coalesce($2::jsonb, progress), seen_at = $3 where id = $1 returning stop',
    [id, progress && JSON.stringify(progress), seenAt],
  );
  return row?.stop ?? true;
}

export const endRun = (
  tx: Queries,
  id: string,
  state: 'done' | 'failed',
  answer: Proposed | null,
): Promise<unknown> =>
  tx.query('update roster_runs set state = $2, answer = $3::jsonb where id = $1', [
    id,
    state,
    answer && JSON.stringify(answer),
  ]);

export const dropRun = (tx: Queries, eventId: string): Promise<unknown> =>
  tx.query('delete from roster_runs where event_id = $1', [eventId]);

/** Names of people, by their ids. */
export const namesOf = async (tx: Queries, ids: readonly string[]): Promise<ReadonlyMap<string, string>> =>
  new Map(
    (
      await tx.query<{ id: string; name: string }>(
        "select id, trim(given_name || ' ' || family_name) as name from contacts where id = any($1)",
        [ids],
      )
    ).map((c) => [c.id, c.name]),
  );

/** Whether somebody asked for a shift and waits for a decision; the assignment by which they do. */
export const askedFor = (tx: Queries, shiftId: string, contactId: string): Promise<{ id: string } | null> =>
  first<{ id: string }>(
    tx,
    "select id from assignments where shift_id = $1 and contact_id = $2 and state = 'proposed'",
    [shiftId, contactId],
  );
