import type { QuietReason } from '#core/contacts/quiet.ts';
import { takingPart } from '#core/crew/states.ts';
import { type AttendanceState, came } from '#core/doors/attendance.ts';
import type { Audience } from '#core/messages/audiences.ts';
import type { Channel } from '#core/messages/channels.ts';
import type { Recipient } from '#core/messages/planning.ts';
import type { MessageState } from '#core/messages/states.ts';
import type { SurveyAudience, Wave } from '#core/surveys/survey.ts';
import type { Reason } from '#core/words/reasons.ts';
import { bouncedOf, emailOf, mobileOf, orderEmail, whyQuiet } from '../contacts/quiet.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { reasonSql } from '../db/reasons.ts';

/** Somebody a line could go to, with what planning has to know. */
export interface RecipientRow extends Recipient {
  language: 'en' | 'fr';
}

/** Where somebody is reached, and why not. */
export interface Reached {
  contactId: string | null;
  household: string | null;
  /** Where they live by the clock, or else where they booked; null where nobody knows. */
  zone: string | null;
  /** Where they booked, or asked to follow. */
  ownZone: string | null;
  name: string;
  email: string | null;
  mobile: string | null;
  /** They have no email because it bounced. */
  bounced: boolean;
  /** They want no more reminders of it. */
  leftIt: boolean;
  language: 'en' | 'fr';
  quiet: QuietReason | null;
}

/**
 * Rows of people of the event $1, each with whether they have no email because it bounced, asked of those without one alone, and
 * whether they want no more reminders of it. `offset 0` has each address looked up once for both.
 */
const withStanding = (rows: string, order: string): string =>
  `select x.*, h.household_id as household, coalesce(h.zone, x.own_zone) as zone, x.email is null and ${bouncedOf('x.contact_id')} as bounced,
     (x.contact_id in (select f.contact_id from followers f where f.state = 'out' and f.contact_id is not null
       and (f.event_id = $1 or f.series_id = (select series_id from events where id = $1)))) is true as left_it
   from (${rows} offset 0) x left join contacts h on h.id = x.contact_id order by ${order}`;

/** The number that whoever booked is written to by text message. */
const orderMobile = `case when o.buyer_contact_id is null then o.buyer_phone else ${mobileOf('o.buyer_contact_id')} end`;
const buyer = "o.buyer_given || ' ' || o.buyer_family";
const ofOrder = (orderId: string | null) => (orderId ? 'and o.id = $2' : '');
const about = (eventId: string, orderId: string | null) => (orderId ? [eventId, orderId] : [eventId]);

/** Orders with a confirmed seat, each with its buyer. */
export const orderRecipients = (
  tx: Queries,
  eventId: string,
  orderId: string | null,
): Promise<
  (Reached & {
    orderId: string;
    confirmedAt: string;
    /** What is still to be paid; below nought, what goes back. */
    owed: number;
    /** Of their seats. */
    unnamed: number;
  })[]
> =>
  tx.query(
    withStanding(
      `select o.id as order_id, o.buyer_contact_id as contact_id, ${buyer} as name, ${orderEmail('o')} as email, ${orderMobile} as mobile, o.language, o.zone as own_zone,
         min(r.confirmed_at) as confirmed_at, min(${whyQuiet('c')}) as quiet, o.balance as owed,
         count(*) filter (where r.given_name = '' and r.family_name = '')::int as unnamed
       from orders o join registrations r on r.order_id = o.id and r.state = 'confirmed'
         left join contacts c on c.id = o.buyer_contact_id
       where o.event_id = $1 ${ofOrder(orderId)} group by o.id`,
      'x.confirmed_at, x.order_id',
    ),
    about(eventId, orderId),
  );

/** Parties on the waitlist. */
export const partyRecipients = (
  tx: Queries,
  eventId: string,
  orderId: string | null,
): Promise<(Reached & { orderId: string; waitlistedAt: string })[]> =>
  tx.query(
    withStanding(
      `select o.id as order_id, o.buyer_contact_id as contact_id, ${buyer} as name, ${orderEmail('o')} as email, ${orderMobile} as mobile, o.language, o.zone as own_zone,
         o.waitlisted_at, ${whyQuiet('c')} as quiet
       from orders o left join contacts c on c.id = o.buyer_contact_id
       where o.event_id = $1 ${ofOrder(orderId)} and o.waitlisted_at is not null
         and exists (select 1 from registrations r where r.order_id = o.id and r.state = 'waitlisted')`,
      'x.waitlisted_at, x.order_id',
    ),
    about(eventId, orderId),
  );

/** What happens to an order and may happen again; each with the state that its seats came to, and in which of it something is said. */
const occasions = {
  accepted:
    "s.state in ('held', 'confirmed') and o.asked_at is not null and r.state in ('held', 'confirmed')",
  offered: "s.state = 'offered' and r.state = 'offered'",
  'given up': "s.state = 'withdrawn'",
} as const;
export type Occasion = keyof typeof occasions;

/** Orders to which something happened, each as often as it did. What came to be accepted, came to be so once. */
export const occasionRecipients = (
  tx: Queries,
  occasion: Occasion,
  eventId: string,
  orderId: string | null,
): Promise<(Reached & { orderId: string; at: string })[]> =>
  tx.query(
    withStanding(
      `select o.id as order_id, o.buyer_contact_id as contact_id, ${buyer} as name, ${orderEmail('o')} as email, ${orderMobile} as mobile, o.language, o.zone as own_zone,
         h.at, ${whyQuiet('c')} as quiet
       from (select o.id as order_id, ${occasion === 'accepted' ? 'min(s.at)' : 's.at'} as at from orders o join registrations r on r.order_id = o.id
           join registration_states s on s.registration_id = r.id
           where o.event_id = $1 ${ofOrder(orderId)} and ${occasions[occasion]} group by o.id${occasion === 'accepted' ? '' : ', s.at'}) h
         join orders o on o.id = h.order_id left join contacts c on c.id = o.buyer_contact_id`,
      'x.at, x.order_id',
    ),
    about(eventId, orderId),
  );

/** Confirmed seats with the person in each and the buyer who may get the copy for them. */
export const attendeeRecipients = (
  tx: Queries,
  eventId: string,
  orderId: string | null,
): Promise<
  (Reached & {
    registrationId: string;
    orderId: string;
    confirmedAt: string;
    isBuyer: boolean;
    buyerContactId: string | null;
    buyerName: string;
    buyerEmail: string | null;
    buyerMobile: string | null;
    buyerQuiet: QuietReason | null;
    attendance: AttendanceState | null;
    counted: boolean;
  })[]
> =>
  tx.query(
    withStanding(
      `select r.id as registration_id, o.id as order_id, r.contact_id, trim(r.given_name || ' ' || r.family_name) as name,
         ${emailOf('r.contact_id')} as email, ${mobileOf('r.contact_id')} as mobile,
         coalesce(c.language, o.language) as language, o.zone as own_zone, r.confirmed_at, ${whyQuiet('c')} as quiet,
         (r.contact_id = o.buyer_contact_id) is true as is_buyer, o.buyer_contact_id, ${buyer} as buyer_name,
         ${orderEmail('o')} as buyer_email, ${orderMobile} as buyer_mobile, ${whyQuiet('b')} as buyer_quiet, a.state as attendance,
         exists (select 1 from attendance came where came.event_id = $1 and came.state in ${among(came)}) as counted,
         o.placed_at, r.seat_number
       from registrations r join orders o on o.id = r.order_id left join contacts c on c.id = r.contact_id
         left join contacts b on b.id = o.buyer_contact_id left join attendance a on a.registration_id = r.id
       where r.event_id = $1 and r.state = 'confirmed' ${ofOrder(orderId)}`,
      'x.placed_at, x.order_id, x.seat_number',
    ),
    about(eventId, orderId),
  );

/** Who was asked by a survey of an event, and whether they answered. */
export const askedInSurvey = (
  tx: Queries,
  eventId: string,
  { audience, wave }: { audience: SurveyAudience; wave: Wave },
): Promise<{ contactId: string; answered: boolean }[]> =>
  tx.query(
    `select k.contact_id, k.answered or exists (select 1 from survey_responses x where x.survey_id = v.id and x.contact_id = k.contact_id) as answered
     from survey_asks k join surveys v on v.id = k.survey_id
     where v.event_id = $1 and v.audience = $2 and v.wave = $3 and v.removed_at is null`,
    [eventId, audience, wave],
  );

/**
 * Confirmed seats with a session each that has a time, by whoever is written to about it: who sits there where they have an address, else whoever booked. Of one order,
 * or of one seat and session alone.
 */
export const sessionRecipients = (
  tx: Queries,
  eventId: string,
  only: { orderId: string | null; seatId?: string; sessionId?: string },
): Promise<
  (Reached & {
    registrationId: string;
    sessionId: string;
    chosenAt: string;
    /** Who comes, where that is somebody else. */
    comes: string;
    title: { en: string; fr?: string };
    room: string;
    day: number;
    begins: string;
    ends: string;
  })[]
> =>
  tx.query(
    withStanding(
      `select r.id as registration_id, s.id as session_id, case when own.email is null then o.buyer_contact_id else r.contact_id end as contact_id,
         trim(case when own.email is null then ${buyer} else r.given_name || ' ' || r.family_name end) as name,
         coalesce(own.email, ${orderEmail('o')}) as email, case when own.email is null then ${orderMobile} else ${mobileOf('r.contact_id')} end as mobile,
         o.language, o.zone as own_zone,
         (select ${whyQuiet('c')} from contacts c where c.id = case when own.email is null then o.buyer_contact_id else r.contact_id end) as quiet,
         greatest(t.at, r.confirmed_at) as chosen_at,
         case when own.email is null and r.contact_id is distinct from o.buyer_contact_id then r.given_name else '' end as comes,
         s.title, coalesce(m.name, '') as room, s.day, s.begins, s.ends
       from session_seats t join agenda_sessions s on s.id = t.session_id join registrations r on r.id = t.registration_id
         join orders o on o.id = r.order_id left join rooms m on m.id = s.room_id
         cross join lateral (select ${emailOf('r.contact_id')} as email) own
       where r.event_id = $1 and r.state = 'confirmed' and s.removed_at is null and s.day is not null and ($2::uuid is null or o.id = $2)
         and ($3::uuid is null or r.id = $3) and ($4::uuid is null or s.id = $4)`,
      'x.chosen_at, x.registration_id, x.session_id',
    ),
    [eventId, only.orderId, only.seatId ?? null, only.sessionId ?? null],
  );

/**
 * Those who look after the children with a confirmed seat, each once a child: who is known to; whoever booked, where nobody is. Of
 * one order, or of one of them alone.
 */
export const guardianRecipients = (
  tx: Queries,
  eventId: string,
  only: { orderId: string | null; contactId: string | null },
): Promise<(Reached & { registrationId: string; confirmedAt: string; child: string })[]> =>
  tx.query(
    withStanding(
      `select r.id as registration_id, g.id as contact_id, trim(g.given_name || ' ' || g.family_name) as name, ${emailOf('g.id')} as email,
         ${mobileOf('g.id')} as mobile, g.language, o.zone as own_zone, r.confirmed_at, ${whyQuiet('g')} as quiet, r.given_name as child
       from registrations r join orders o on o.id = r.order_id join events e on e.id = r.event_id left join contacts c on c.id = r.contact_id
         cross join organization
         join contacts g on g.id in (select k.from_contact from relationships k where k.kind = 'guardian' and k.to_contact = r.contact_id
           union all select o.buyer_contact_id where o.buyer_contact_id is distinct from r.contact_id
             and not exists (select 1 from relationships k where k.kind = 'guardian' and k.to_contact = r.contact_id))
       where r.event_id = $1 and r.state = 'confirmed' and ($2::uuid is null or o.id = $2) and ($3::uuid is null or g.id = $3)
         and (r.said_minor or coalesce(r.birth_date, c.birth_date) > (coalesce(e.starts_local, r.confirmed_at at time zone e.zone)
           - make_interval(years => age_of_majority))::date)`,
      'x.confirmed_at, x.registration_id, x.contact_id',
    ),
    [eventId, only.orderId, only.contactId],
  );

/** Volunteers on the shifts of an event. */
export const crewRecipients = (
  tx: Queries,
  eventId: string,
): Promise<
  (Reached & { assignmentId: string; startsAt: string; madeAt: string; role: string; place: string })[]
> =>
  tx.query(
    withStanding(
      `select a.id as assignment_id, a.contact_id, trim(c.given_name || ' ' || c.family_name) as name,
         ${emailOf('c.id')} as email, ${mobileOf('c.id')} as mobile, c.language, null::text as own_zone, s.starts_at, a.made_at, s.role, s.place, ${whyQuiet('c')} as quiet
       from assignments a join shifts s on s.id = a.shift_id join contacts c on c.id = a.contact_id
       where s.event_id = $1 and a.state in ${among(takingPart)}`,
      'x.starts_at, x.assignment_id',
    ),
    [eventId],
  );

/** Those who follow an event or its series; who has a seat is written to as an attendee. */
export const followerRecipients = (
  tx: Queries,
  eventId: string,
  /** Only those who have to do with one order, or one alone. */
  only: { orderId: string | null; followerId: string | null },
): Promise<(Reached & { followerId: string; since: string; hasSeat: boolean })[]> =>
  tx.query(
    withStanding(
      `select f.id as follower_id, f.contact_id, trim(c.given_name || ' ' || c.family_name) as name, ${emailOf('c.id')} as email,
         ${mobileOf('c.id')} as mobile, f.language, f.zone as own_zone, f.since, ${whyQuiet('c')} as quiet,
         exists (select 1 from registrations r where r.event_id = $1 and r.contact_id = f.contact_id and r.state = 'confirmed') as has_seat
       from followers f join contacts c on c.id = f.contact_id
       where f.state = 'follows' and (f.event_id = $1 or f.series_id = (select series_id from events where id = $1))
         and ($2::uuid is null or f.id = $2)
         and ($3::uuid is null or f.contact_id in (select contact_id from registrations where order_id = $3))`,
      'x.since, x.follower_id',
    ),
    [eventId, only.followerId, only.orderId],
  );

/** Every key that messages about one order can be planned under. */
const aboutOrder = `and recipient_key = any (array(
  select $3::text union all select 'order ' || $3::text union all select id::text from registrations where order_id = $3::uuid
  union all select distinct 'order ' || $3::text || ' ' || to_char(s.at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')
    from registrations r join registration_states s on s.registration_id = r.id where r.order_id = $3::uuid
  union all select key from (select recipient_key as key from messages about where about.event_id = $1 and (about.recipient_key like 'guardian %' or about.recipient_key like 'session %')
      and split_part(about.recipient_key, ' ', 2) in (select id::text from registrations where order_id = $3::uuid)) guardians
  union all select f.id::text from registrations r join followers f on f.contact_id = r.contact_id where r.order_id = $3::uuid))`;

/** A message that a line planned, or that is gone by it. */
export interface PlannedRow {
  id: string;
  lineId: string;
  recipientKey: string;
  state: MessageState;
  plannedFor: string | null;
  address: string | null;
  channel: Channel;
}
export const plannedColumns = 'id, line_id, recipient_key, state, planned_for, address, channel';

/** What an event’s lines planned, with what decides which of it goes together. */
export const readTogether = (
  tx: Queries,
  eventId: string,
  lineIds: readonly string[],
): Promise<(PlannedRow & { contactId: string | null; language: 'en' | 'fr' })[]> =>
  tx.query(
    `select ${plannedColumns}, contact_id, language from messages where event_id = $1 and line_id = any($2)`,
    [eventId, lineIds],
  );

/** Messages already planned or gone by some lines, only those about one order when given. */
export const readPlanned = (
  tx: Queries,
  eventId: string,
  lineIds: readonly string[],
  orderId: string | null,
): Promise<PlannedRow[]> =>
  tx.query<PlannedRow>(
    `select ${plannedColumns} from messages
     where event_id = $1 and line_id = any($2) ${orderId ? aboutOrder : ''}`,
    orderId ? [eventId, lineIds, orderId] : [eventId, lineIds],
  );

/** A planned message that goes out at another moment, or to another address. */
export interface Moved {
  id: string;
  at: string;
  address: string | null;
  channel: Channel;
  reason: string;
}

/** Plans messages anew for their new moments. */
export async function movePlanned(tx: Queries, moved: readonly Moved[]): Promise<void> {
  if (moved.length)
    await tx.query(
      `update messages m set state = 'planned', planned_for = r.at, next_try_at = r.at, address = r.address, channel = r.channel,
         reason = r.reason, why_not = null
       from jsonb_to_recordset($1::jsonb) as r(id uuid, at timestamptz, address text, channel text, reason text) where m.id = r.id`,
      [JSON.stringify(moved)],
    );
}

/** Holds back what was planned by lines that are no longer in the plan. What went out stays. Answers how many of each. */
export const holdBackRemoved = (
  tx: Queries,
  eventId: string,
): Promise<{ line: string; count: number; from: string | null }[]> =>
  tx.query<{ line: string; count: number; from: string | null }>(
    `with held as (update messages m set state = 'held back', why_not = ${reasonSql('step removed')}, next_try_at = null
     where event_id = $1 and (state = 'planned' or (state = 'failed' and next_try_at is not null))
       and line_id in (select id from message_lines where event_id = $1 and removed_at is not null) returning line_id, planned_for)
     select s.name as line, count(*)::int as count, min(h.planned_for) as "from" from held h join message_lines s on s.id = h.line_id
     group by s.name, s.position order by s.position, s.name`,
    [eventId],
  );

/** Holds back what was to tell a guest of a seat and has not left: it would hand the link on to whoever was asked before. */
export const holdBackGuest = (tx: Queries, registrationId: string): Promise<unknown> =>
  tx.query(
    `update messages m set state = 'held back', why_not = ${reasonSql('to another address')}, next_try_at = null
     where event_id = (select event_id from registrations where id = $1::uuid) and recipient_key like 'your seat:' || $1::text || ':%' and (state = 'planned' or (state = 'failed' and next_try_at is not null))`,
    [registrationId],
  );

/** Holds planned messages back, each with its reason. */
export async function holdBack(tx: Queries, gone: readonly { id: string; why: Reason }[]): Promise<void> {
  if (gone.length)
    await tx.query(
      `update messages m set state = 'held back', why_not = r.why, next_try_at = null
       from jsonb_to_recordset($1::jsonb) as r(id uuid, why jsonb) where m.id = r.id`,
      [JSON.stringify(gone)],
    );
}

/** Events of which something is planned that has not gone out. */
export const eventsPlanned = async (tx: Queries): Promise<string[]> =>
  (
    await tx.query<{ id: string }>(
      "select distinct event_id as id from messages where state = 'planned' and line_id is not null and event_id is not null order by 1",
    )
  ).map((e) => e.id);

/** Whether the plan of an event has lines for some audiences. */
export const hasLinesFor = async (tx: Queries, eventId: string, of: readonly Audience[]): Promise<boolean> =>
  (await first(
    tx,
    'select 1 as x from message_lines where event_id = $1 and removed_at is null and audience = any($2) limit 1',
    [eventId, of],
  )) !== null;

/** Whether some lines of an event go only to some of their people, by their seats. */
export const isNarrowed = async (tx: Queries, eventId: string): Promise<boolean> =>
  (await first(
    tx,
    "select 1 as x from message_lines where event_id = $1 and removed_at is null and narrowed <> '[]' limit 1",
    [eventId],
  )) !== null;

/** The order a seat is of; null where there is no such seat. */
export const orderOfSeat = async (tx: Queries, registrationId: string): Promise<string | null> =>
  (await first<{ orderId: string }>(tx, 'select order_id from registrations where id = $1', [registrationId]))
    ?.orderId ?? null;

/** Whether something is still to be asked for what an order owes. */
export const isAskedFor = async (tx: Queries, eventId: string, orderId: string): Promise<boolean> =>
  (await first(
    tx,
    "select 1 as x from messages where event_id = $1 and recipient_key = $2 and kind = 'balance due' and state = 'planned' limit 1",
    [eventId, orderId],
  )) !== null;
