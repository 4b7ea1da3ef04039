import type { Dispute } from '#contract/attendance.ts';
import type { AttendanceState } from '#core/doors/attendance.ts';
import { came } from '#core/doors/attendance.ts';
import type { Named } from '#core/doors/attendanceFile.ts';
import type { DoorMark } from '#core/doors/marks.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';

/** Everybody with a confirmed seat at an event, with what is kept of their attendance. */
export const seatsAttending = (tx: Queries, eventId: string, registrationId: string | null = null) =>
  tx.query<{
    registrationId: string;
    given: string;
    family: string;
    offer: string;
    state: AttendanceState | null;
    arrivedAt: string | null;
    leftAt: string | null;
    /** Of whoever booked. */
    language: 'en' | 'fr';
  }>(
    `select r.id as registration_id, r.given_name as given, r.family_name as family, o.language, f.name as offer, a.state, a.arrived_at, a.left_at
     from registrations r join orders o on o.id = r.order_id join offers f on f.id = r.offer_id left join attendance a on a.registration_id = r.id
     where r.event_id = $1 and r.state = 'confirmed' and ($2::uuid is null or r.id = $2)
     order by (r.family_name = '' and r.given_name = ''), r.family_name, r.given_name, r.id`,
    [eventId, registrationId],
  );

/** The same with what a list of who was there can name them by. */
export const seatsNamed = (tx: Queries, eventId: string): Promise<Named[]> =>
  tx.query<Named>(
    `select r.id as registration_id, r.given_name as given, r.family_name as family, r.pass_code as pass,
       array_remove(array[o.buyer_email, r.guest_email] || array(select email from contact_emails m where m.contact_id = r.contact_id and m.ended_on is null), null) as emails
     from registrations r join orders o on o.id = r.order_id where r.event_id = $1 and r.state = 'confirmed'
     order by r.family_name, r.given_name, r.id`,
    [eventId],
  );

/** Everything that was marked about a seat, newest first, with how it came about. */
export const marksShown = (tx: Queries, registrationId: string) =>
  tx.query<
    DoorMark & {
      toldAt: string;
      by: string;
      device: string;
      session: string | null;
      why: string;
      handedTo: string;
    }
  >(
    `select m.id, m.state, m.at, m.undoes, m.session_id, m.told_at, m.actor as by, m.device, s.title ->> 'en' as session, m.why, m.handed_to
     from attendance_marks m left join agenda_sessions s on s.id = m.session_id where m.registration_id = $1 order by m.told_at desc, m.at desc, m.id desc`,
    [registrationId],
  );

/** Sessions of an event that anybody was marked at, by how many came. */
export async function cameToSessions(tx: Queries, eventId: string): Promise<ReadonlyMap<string, number>> {
  const rows = await tx.query<{ sessionId: string; came: number }>(
    `select m.session_id, count(distinct m.registration_id)::int as came from attendance_marks m join registrations r on r.id = m.registration_id
     where r.event_id = $1 and m.session_id is not null and m.state = 'arrived'
       and not exists (select 1 from attendance_marks u where u.registration_id = m.registration_id and u.state = 'expected' and m.id = any(u.undoes))
     group by 1`,
    [eventId],
  );
  return new Map(rows.map((r) => [r.sessionId, r.came]));
}

/** The lists of who was there that an event took, newest first. */
export const listsTaken = (tx: Queries, eventId: string) =>
  tx.query<{
    id: string;
    fileName: string;
    session: string | null;
    rows: number;
    people: number;
    by: string;
    at: string;
    undoneAt: string | null;
  }>(
    `select i.id, i.file_name, s.title ->> 'en' as session, i.rows, i.people, i.actor as by, i.at, i.undone_at
     from attendance_imports i left join agenda_sessions s on s.id = i.session_id where i.event_id = $1 order by i.at desc, i.id desc`,
    [eventId],
  );

/** A list that was taken; nobody else takes it back meanwhile. */
export const theList = (tx: Queries, id: string) =>
  first<{ id: string; eventId: string; fileName: string; undoneAt: string | null }>(
    tx,
    'select id, event_id, file_name, undone_at from attendance_imports where id = $1 for update',
    [id],
  );

/** Whether the same list was taken, for the same event or session, and counts. */
export const isTaken = async (
  tx: Queries,
  eventId: string,
  sessionId: string | null,
  hash: string,
): Promise<boolean> =>
  (await first(
    tx,
    'select 1 as x from attendance_imports where event_id = $1 and session_id is not distinct from $2::uuid and sha256 = $3 and undone_at is null',
    [eventId, sessionId, hash],
  )) !== null;

/** The marks that came with a list, by seat. */
export const marksOfList = (tx: Queries, importId: string) =>
  tx.query<{ registrationId: string; ids: string[] }>(
    'select registration_id, array_agg(id) as ids from attendance_marks where import_id = $1 group by 1 order by 1',
    [importId],
  );

/** What people said of their attendance at an event, open ones first. */
export const disputesOf = (tx: Queries, eventId: string): Promise<Dispute[]> =>
  tx.query<Dispute>(
    `select d.id, d.registration_id, trim(r.given_name || ' ' || r.family_name) as name, d.says, d.words, d.at, d.outcome, d.answer, d.answered_by
     from attendance_disputes d join registrations r on r.id = d.registration_id where d.event_id = $1
     order by (d.answered_at is not null), d.at desc, d.id`,
    [eventId],
  );

interface DisputeRow {
  id: string;
  registrationId: string;
  eventId: string;
  says: Dispute['says'];
  words: string;
  by: 'buyer' | 'guest';
  language: 'en' | 'fr';
  outcome: Dispute['outcome'];
  answer: string;
}

/** What somebody said; nobody else answers it meanwhile. */
export const theDispute = (tx: Queries, id: string) =>
  first<DisputeRow>(
    tx,
    'select id, registration_id, event_id, says, words, by, language, outcome, answer from attendance_disputes where id = $1 for update',
    [id],
  );

/** What was said last of a seat. */
export const lastDispute = (tx: Queries, registrationId: string) =>
  first<DisputeRow>(
    tx,
    'select id, registration_id, event_id, says, words, by, language, outcome, answer from attendance_disputes where registration_id = $1 order by at desc, id desc limit 1',
    [registrationId],
  );

/** Where people were let in, by what the devices are called; each person where they were first. */
export const arrivalsByDoor = (tx: Queries, eventId: string, since: string | null) =>
  tx.query<{ name: string; arrived: number; lastAt: string }>(
    `select coalesce(nullif(f.device, ''), f.actor) as name, count(*)::int as arrived, max(f.at) as last_at from (
       select distinct on (m.registration_id) m.registration_id, m.device, m.actor, m.at from attendance_marks m join attendance a on a.registration_id = m.registration_id
       where a.event_id = $1 and a.state in ${among(came)} and m.state = 'arrived' and ($2::timestamptz is null or m.at >= $2)
         and not exists (select 1 from attendance_marks u where u.registration_id = m.registration_id and u.state = 'expected' and m.id = any(u.undoes))
       order by m.registration_id, m.at, m.id) f group by 1 order by 2 desc, 1`,
    [eventId, since],
  );

/** How people came to events of before: minutes after the start, and how many had a seat there. */
export const arrivalsBefore = async (
  tx: Queries,
  {
    id,
    seriesId,
    category,
    startsAt,
  }: { id: string; seriesId: string | null; category: string; startsAt: string },
  of: 'series' | 'kind' | 'all',
) =>
  (await first<{ events: number; seats: number; offsets: number[] }>(
    tx,
    `with before as (
       select e.id, e.starts_at from events e where e.id <> $1 and not e.is_template and e.starts_at < $2::timestamptz and e.absences_at is not null
         and e.starts_at > $2::timestamptz - interval '5 years'
         and case $3 when 'series' then e.series_id = $4::uuid when 'kind' then lower(e.category) = lower($5) and e.category <> '' else true end
       order by e.starts_at desc limit 40)
     select (select count(*)::int from before) as events,
       (select count(*)::int from registrations r join before b on b.id = r.event_id where r.state = 'confirmed') as seats,
       coalesce((select array_agg(round(extract(epoch from a.arrived_at - b.starts_at) / 60)::int) from attendance a join before b on b.id = a.event_id
         where a.arrived_at is not null and a.state in ${among(came)}), '{}') as offsets`,
    [id, startsAt, of, seriesId, category],
  ))!;
