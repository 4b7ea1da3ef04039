import type { EventReach } from '#core/access/stages.ts';
import type { AttendanceState } from '#core/doors/attendance.ts';
import { came } from '#core/doors/attendance.ts';
import { type DoorMark, marksOfEvent, type Presence, presenceOf } from '#core/doors/marks.ts';
import type { Findable } from '#core/doors/selfCheckIn.ts';
import { livingStates } from '#core/events/states.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { instantSql } from '../db/instants.ts';
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

/** Everything that was marked about a seat. */
export const marksOf = (tx: Queries, registrationId: string): Promise<DoorMark[]> =>
  tx.query<DoorMark>(
    `select m.id, m.state, m.at, m.undoes, m.session_id from attendance_marks m where m.registration_id = $1`,
    [registrationId],
  );

/** A mark with how it came about. */
export interface KeptMark extends DoorMark {
  registrationId: string;
  staffId: string | null;
  actor: string;
  device: string;
  toldAt: string;
  /** Why, where it corrects what was marked. */
  why?: string;
  /** Who took a child that left. */
  handedTo?: string;
  /** The list it came with. */
  importId?: string | null;
}

/** Keeps a mark. Told twice it is one; answers whether it was told before. */
export const keepMark = async (tx: Queries, mark: KeptMark): Promise<boolean> =>
  (
    await tx.query(
      `insert into attendance_marks (id, registration_id, state, at, undoes, staff_id, actor, device, told_at, session_id, why, handed_to, import_id)
       values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13) on conflict (id) do nothing returning id`,
      [
        mark.id,
        mark.registrationId,
        mark.state,
        mark.at,
        mark.undoes,
        mark.staffId,
        mark.actor,
        mark.device,
        mark.toldAt,
        mark.sessionId,
        mark.why ?? '',
        mark.handedTo ?? '',
        mark.importId ?? null,
      ],
    )
  ).length === 0;

/** Keeps where somebody is by all their marks. Whose arrival was taken back after the doors closed is missed. */
export async function keepAttendance(
  tx: Queries,
  seat: { id: string; eventId: string; contactId: string | null },
  { state, arrivedAt, leftAt }: Presence,
): Promise<void> {
  await tx.query(
    `insert into attendance (registration_id, event_id, contact_id, state, arrived_at, left_at)
       select $1, $2, $3, case when $4 = 'expected' and e.absences_at is not null then 'missed' else $4 end, $5, $6 from events e where e.id = $2
     on conflict (registration_id) do update set state = excluded.state, arrived_at = excluded.arrived_at, left_at = excluded.left_at`,
    [seat.id, seat.eventId, seat.contactId, state, arrivedAt, leftAt],
  );
}

/** A mark as JSON of the database. */
const markSql = `jsonb_build_object('id', m.id, 'state', m.state, 'at', ${instantSql('m.at')}, 'undoes', to_jsonb(m.undoes), 'sessionId', m.session_id)`;

/** Everything that was marked at an event, by seat: of everybody, of whoever is inside, or of one. */
export async function marksAt(
  tx: Queries,
  eventId: string,
  of: 'everybody' | 'inside',
  registrationId: string | null = null,
): Promise<ReadonlyMap<string, DoorMark[]>> {
  const rows = await tx.query<{ registrationId: string; marks: DoorMark[] }>(
    `select m.registration_id, jsonb_agg(${markSql}) as marks from attendance_marks m join attendance a on a.registration_id = m.registration_id
     where a.event_id = $1 and ($3 = 'everybody' or a.state = 'arrived') and ($2::uuid is null or a.registration_id = $2) group by 1`,
    [eventId, registrationId, of],
  );
  return new Map(rows.map(({ registrationId, marks }) => [registrationId, marks]));
}

/** The sessions that whoever has a seat at an event signed up for, by seat. */
export async function signedUpAt(
  tx: Queries,
  eventId: string,
  registrationId: string | null = null,
): Promise<ReadonlyMap<string, string[]>> {
  const rows = await tx.query<{ registrationId: string; sessions: string[] }>(
    `select t.registration_id, array_agg(t.session_id) as sessions from session_seats t join registrations r on r.id = t.registration_id
     where r.event_id = $1 and ($2::uuid is null or r.id = $2) group by 1`,
    [eventId, registrationId],
  );
  return new Map(rows.map((r) => [r.registrationId, r.sessions]));
}

/** Seats that are inside an event while a night of it passes. */
export const insideSeats = (tx: Queries, eventId: string) =>
  tx.query<{ id: string; eventId: string; contactId: string | null }>(
    "select registration_id as id, event_id, contact_id from attendance where event_id = $1 and state = 'arrived' order by 1",
    [eventId],
  );

/**
 * When the next night of an event of several days passes, by the clock there at four in the morning (`core/doors/days.ts`); each night once.
 */
export const nextNightSql = `select n.at, e.id from events e, lateral (
    select (((coalesce(e.night_at, e.starts_at) at time zone e.zone) - interval '4 hours')::date + 1 + time '04:00') at time zone e.zone as at) n
  where e.state in ${among(livingStates)} and not e.is_template and (e.doors ->> 'goHome')::boolean and n.at < e.ends_at
  order by 1, 2 limit 1`;

/** Whoever is expected still was missed; answers how many. */
export const keepAbsences = async (tx: Queries, eventId: string): Promise<number> =>
  (
    await tx.query(
      "update attendance set state = 'missed' where event_id = $1 and state = 'expected' returning registration_id",
      [eventId],
    )
  ).length;

/** Whoever was missed is expected again. */
export const forgetAbsences = (tx: Queries, eventId: string) =>
  tx.query("update attendance set state = 'expected' where event_id = $1 and state = 'missed'", [eventId]);

export const hasSeat = async (tx: Queries, eventId: string, contactId: string): Promise<boolean> =>
  (await first(
    tx,
    "select 1 as x from registrations where event_id = $1 and contact_id = $2 and state = 'confirmed'",
    [eventId, contactId],
  )) !== null;

/** How somebody was there, for files: when they came and left, for how long, and how their first arrival was marked. */
export interface Attended extends Presence {
  marks: DoorMark[];
  /** Whether somebody said afterwards when they were there. */
  corrected: boolean;
  /** Who or what marked it: a device of the doors, or themselves. */
  how: string;
  place: { latitude: number; longitude: number } | null;
}

type Kept = DoorMark & { how: string; latitude: number | null; longitude: number | null; why: string };

/** How everybody was there who has a seat at an event, by seat. */
export async function attendedAt(
  tx: Queries,
  eventId: string,
  /** The nights between its days, at which everybody is out. */
  nights: readonly string[],
): Promise<ReadonlyMap<string, Attended>> {
  const rows = await tx.query<{ registrationId: string; marks: Kept[] }>(
    `select m.registration_id, jsonb_agg(${markSql} || jsonb_build_object('how', coalesce(nullif(m.device, ''), m.actor),
       'latitude', m.latitude, 'longitude', m.longitude, 'why', m.why)) as marks
     from attendance_marks m join registrations r on r.id = m.registration_id where r.event_id = $1 group by 1`,
    [eventId],
  );
  return new Map(
    rows.map(({ registrationId, marks }) => {
      const presence = presenceOf(marksOfEvent(marks), nights);
      const first = marks.find((m) => m.state === 'arrived' && m.at === presence.arrivedAt);
      const { latitude = null, longitude = null } = first ?? {};
      return [
        registrationId,
        {
          ...presence,
          marks,
          corrected: marks.some((m) => m.why !== ''),
          how: first?.how ?? '',
          place: latitude === null || longitude === null ? null : { latitude, longitude },
        },
      ];
    }),
  );
}

/**
 * Everybody who is inside an event, by seat or as crew, with whom to call: who they named for it, else who looks after them, else whoever
 * booked.
 */
export const readInside = (tx: Queries, eventId: string) =>
  tx.query<{
    key: string;
    contactId: string | null;
    name: string;
    part: 'seat' | 'crew';
    birthDate: string | null;
    saidMinor: boolean;
    since: string | null;
    /** Whoever booked, where they are somebody else. */
    buyer: string | null;
    callName: string | null;
    callPhone: string | null;
  }>(
    `with inside as (
       select 'seat ' || r.id as key, r.contact_id, trim(r.given_name || ' ' || r.family_name) as name, 'seat' as part, r.birth_date, r.said_minor,
           a.arrived_at as since, case when o.buyer_contact_id is distinct from r.contact_id then trim(o.buyer_given || ' ' || o.buyer_family) end as buyer,
           case when o.buyer_contact_id is distinct from r.contact_id then o.buyer_phone end as buyer_phone
         from attendance a join registrations r on r.id = a.registration_id join orders o on o.id = r.order_id
         where a.event_id = $1 and a.state = 'arrived'
       union all select 'crew ' || c.id, c.id, trim(c.given_name || ' ' || c.family_name), 'crew', c.birth_date, false, min(x.in_at), null, null
         from assignments x join shifts s on s.id = x.shift_id join contacts c on c.id = x.contact_id
         where s.event_id = $1 and x.in_at is not null and x.out_at is null group by c.id)
     select i.key, i.contact_id, i.name, i.part, i.birth_date::text as birth_date, i.said_minor, i.since, i.buyer,
       coalesce(e.name, i.buyer) as call_name, case when e.name is not null then e.phone else i.buyer_phone end as call_phone
     from inside i left join lateral (
       select coalesce(l.other_name, trim(k.given_name || ' ' || k.family_name)) as name,
         coalesce(l.other_phone, (select phone from contact_phones p where p.contact_id = k.id and p.ended_on is null order by p.position, p.id limit 1)) as phone
       from relationships l left join contacts k on k.id = l.from_contact and l.other_name is null
       where l.to_contact = i.contact_id and l.kind in ('emergency', 'guardian') order by l.kind, l.created_at, l.id limit 1) e on true`,
    [eventId],
  );

/** How many of the crew are inside an event. */
export const crewInside = async (tx: Queries, eventId: string): Promise<number> =>
  (await first<{ n: number }>(
    tx,
    `select count(distinct x.contact_id)::int as n from assignments x join shifts s on s.id = x.shift_id
     where s.event_id = $1 and x.in_at is not null and x.out_at is null`,
    [eventId],
  ))!.n;

/** The telephones that somebody with a seat is known by, their own and of whoever booked, as SQL over a registration and its order. */
export const phonesSql = (r: string, o: string): string =>
  `array_remove(array[${o}.buyer_phone] || array(select phone from contact_phones p where p.contact_id = ${r}.contact_id and p.ended_on is null), null)`;

/**
 * True where somebody who is on record never came to anything before, neither as a guest nor as crew, as SQL over a registration; whoever is
 * not on record may have been here often.
 */
export const firstTimeSql = (r: string): string =>
  `(${r}.contact_id is not null and not exists (select 1 from attendance w where w.contact_id = ${r}.contact_id and w.event_id <> ${r}.event_id
      and w.state in ${among(came)})
    and not exists (select 1 from assignments w where w.contact_id = ${r}.contact_id and w.in_at is not null))`;

/** Who looks after whoever has a seat at an event, by seat: they may collect them. */
export async function collectorsAt(
  tx: Queries,
  eventId: string,
  registrationId: string | null,
): Promise<ReadonlyMap<string, string[]>> {
  const rows = await tx.query<{ registrationId: string; names: string[] }>(
    `select r.id as registration_id, array_agg(coalesce(l.other_name, trim(k.given_name || ' ' || k.family_name)) order by l.kind desc, l.created_at, l.id) as names
     from registrations r join relationships l on l.to_contact = r.contact_id and l.kind in ('emergency', 'guardian')
       left join contacts k on k.id = l.from_contact and l.other_name is null
     where r.event_id = $1 and ($2::uuid is null or r.id = $2) group by 1`,
    [eventId, registrationId],
  );
  return new Map(rows.map((r) => [r.registrationId, r.names.filter(Boolean)]));
}

/** Whether name tags were made for an event. */
export const hasTags = async (tx: Queries, eventId: string): Promise<boolean> =>
  (await first(
    tx,
    'select 1 as x from registrations where event_id = $1 and tag_printed_at is not null limit 1',
    [eventId],
  )) !== null;

/** That name tags were made, the first time. */
export const keepTagged = (tx: Queries, seatIds: readonly string[], now: string) =>
  tx.query('update registrations set tag_printed_at = coalesce(tag_printed_at, $2) where id = any($1)', [
    seatIds,
    now,
  ]);

/** Everybody with a confirmed seat at an event, with what they can be known by: their own addresses and numbers, and those of whoever booked. */
export const seatsToFind = (tx: Queries, eventId: string): Promise<Findable[]> =>
  tx.query<Findable>(
    `select r.id as registration_id, r.given_name as given, r.family_name as family,
       array_remove(array[o.buyer_email, r.guest_email] || array(select email from contact_emails m where m.contact_id = r.contact_id and m.ended_on is null), null) as emails,
       ${phonesSql('r', 'o')} as phones
     from registrations r join orders o on o.id = r.order_id where r.event_id = $1 and r.state = 'confirmed' and r.given_name || r.family_name <> ''`,
    [eventId],
  );

/** Keeps where somebody was who said that they are here, where they agreed to it. */
export const keepPlace = (
  tx: Queries,
  registrationId: string,
  { latitude, longitude }: { latitude: number; longitude: number },
) =>
  tx.query(
    `update attendance_marks set latitude = $2, longitude = $3 where id = (select id from attendance_marks where registration_id = $1 order by told_at desc, id desc limit 1)`,
    [registrationId, latitude, longitude],
  );

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
