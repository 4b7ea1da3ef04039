import type { EventReach } from '#core/access/stages.ts';
import type { AttendanceState } from '#core/doors/attendance.ts';
import { came } from '#core/doors/attendance.ts';
import { livingStates } from '#core/events/states.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { endSql } from '../events/end.ts';

/** Where somebody with a seat is, as the row says now; whoever asks as well waits. */
export const attendanceNow = async (tx: Queries, registrationId: string): Promise<AttendanceState> =>
  (
    await first<{ state: AttendanceState }>(
      tx,
      'select state from attendance where registration_id = $1 for update',
      [registrationId],
    )
  )?.state ?? 'expected';

/** Keeps an arrival, a leaving, or a mark that was taken back. Who comes in again arrived when they first did. */
export async function keepAttendance(
  tx: Queries,
  seat: { id: string; eventId: string; contactId: string | null },
  state: AttendanceState,
  at: string,
): Promise<void> {
  await tx.query(
    `insert into attendance (registration_id, event_id, contact_id, state, arrived_at, left_at) values ($1, $2, $3, $4, $5, $6)
     on conflict (registration_id) do update set state = excluded.state,
       arrived_at = case when excluded.state = 'expected' then null when excluded.state = 'left' or attendance.state = 'left' then attendance.arrived_at else excluded.arrived_at end,
       left_at = excluded.left_at`,
    [
      seat.id,
      seat.eventId,
      seat.contactId,
      state,
      state === 'arrived' ? at : null,
      state === 'left' ? at : null,
    ],
  );
}

export const keepAbsences = (tx: Queries, eventId: string) =>
  tx.query("update attendance set state = 'missed' where event_id = $1 and state = 'expected'", [eventId]);

export const hasSeat = async (tx: Queries, eventId: string, contactId: string): Promise<boolean> =>
  (await first(
    tx,
    "select 1 as x from registrations where event_id = $1 and contact_id = $2 and state = 'confirmed'",
    [eventId, contactId],
  )) !== null;

/** The seat that a pass belongs to, at whatever event. */
export const seatOfPass = (tx: Queries, code: string) =>
  first<{ id: string; eventId: string; title: string }>(
    tx,
    'select r.id, r.event_id, e.public_title as title from registrations r join events e on e.id = r.event_id where r.pass_code = $1',
    [code],
  );

/** The events whose doors are open yesterday, today or tomorrow. */
export const doorsAround = (tx: Queries, now: string) =>
  tx.query<{
    id: string;
    title: string;
    /** What of it decides who has its list. */
    reach: Omit<EventReach, 'id'>;
    startsLocal: string | null;
    endsLocal: string | null;
    doorsLocal: string | null;
    zone: string;
    place: string | null;
    confirmed: number;
    arrived: number;
  }>(
    `select e.id, e.public_title as title, e.starts_local, e.ends_local, e.doors_local, e.zone,
         jsonb_build_object('unitId', e.unit_id, 'partnerIds', e.partner_ids, 'startsAt', e.starts_at, 'endsAt', e.ends_at, 'doorsAt', e.doors_at) as reach,
         v.name as place, (select count(*)::int from registrations r where r.event_id = e.id and r.state = 'confirmed') as confirmed,
         (select count(*)::int from attendance a where a.event_id = e.id and a.state in ${among(came)}) as arrived
       from events e left join venues v on v.id = e.venue_id
       where e.state in ${among(livingStates)} and not e.is_template and ${endSql('e')} > $1::timestamptz - interval '1 day'
         and coalesce(e.doors_at, e.starts_at) < $1::timestamptz + interval '2 days' order by e.starts_at, e.id`,
    [now],
  );
