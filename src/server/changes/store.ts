import type { MadeChange } from '#contract/changes.ts';
import type { Elsewhere, Engagement } from '#core/changes/meanwhile.ts';
import type { SeatedParty } from '#core/changes/seats.ts';
import type { QuietReason } from '#core/contacts/quiet.ts';
import type { SaidShift } from '#core/crew/said.ts';
import { emailOf, orderEmail, whyQuiet } from '../contacts/quiet.ts';
import { first, insert, type Queries } from '../db/database.ts';
import { endSql } from '../events/end.ts';
import { notFound } from '../http/problem.ts';

/** From here on every row that is written is kept with a change, until told otherwise: null. */
export const keepRows = (tx: Queries, changeId: string | null): Promise<unknown> =>
  tx.query("select set_config('acolyte.change', $1, true)", [changeId ?? '']);

export interface ChangeRow extends Omit<MadeChange, 'stands'> {
  eventId: string;
  /** The change of several events that it came with. */
  partOf: string | null;
  /** Of a change of several events: which it touched, which it made, and which it hid until it stands. */
  events: { touched: string[]; made: string[]; hidden: string[] } | null;
}

const columns = `c.id, c.event_id, c.kind, c.fields, c.before, c.after, c.words, c.untold, c.made_at, c.actor as "by", c.settles_at, c.undone_at, c.undone_by, c.part_of,
  case when c.after ? 'touched' then c.after end as events,
  (select count(*)::int from messages m where m.change_id in (select x.id from changes x where c.id in (x.id, x.part_of)) and m.state <> 'held back') as letters`;

/** The changes of an event, newest first. */
export const readChanges = (tx: Queries, eventId: string): Promise<ChangeRow[]> =>
  tx.query<ChangeRow>(
    `select ${columns} from changes c where c.event_id = $1 order by c.made_at desc, c.id desc limit 50`,
    [eventId],
  );

/** One change of an event, held until the transaction is over; throws 404. */
export async function readChange(tx: Queries, eventId: string, id: string): Promise<ChangeRow> {
  const row = await first<ChangeRow>(
    tx,
    `select ${columns} from changes c where c.event_id = $1 and c.id = $2 for update of c`,
    [eventId, id],
  );
  if (!row) throw notFound('This change');
  return row;
}

/** Orders that a change touched, or seats of them. */
export const ordersOf = async (tx: Queries, changeId: string): Promise<string[]> =>
  (
    await tx.query<{ id: string }>(
      `select distinct o.id from change_rows c left join registrations r on c.of = 'registrations' and r.id = c.row_id
         join orders o on o.id = coalesce(r.order_id, c.row_id) where c.change_id = $1 and c.of in ('orders', 'registrations') order by o.id`,
      [changeId],
    )
  ).map((o) => o.id);

/** Rows of a change that are not as it left them, by their table, with the state they have now. */
export const alteredSince = (
  tx: Queries,
  changeId: string,
): Promise<{ name: string; isNow: string | null; n: number }[]> =>
  tx.query<{ name: string; isNow: string | null; n: number }>(
    'select name, is_now, count(*)::int as n from altered_since($1) group by name, is_now order by name, is_now',
    [changeId],
  );

/** Puts every row of a change back to what it was. */
export const putBack = (tx: Queries, changeId: string): Promise<unknown> =>
  tx.query('select put_back($1)', [changeId]);

/** Lets go of the rows that a change was kept by: it cannot be taken back any more. */
export const forgetRows = (tx: Queries, changeId: string): Promise<unknown> =>
  tx.query('delete from change_rows where change_id = $1', [changeId]);

/** A change stands from now on, with those that came with it. Answers the events that were hidden until then. */
export async function settle(tx: Queries, changeId: string): Promise<string[]> {
  await tx.query('update changes set settles_at = null where $1 in (id, part_of)', [changeId]);
  const row = await first<{ hidden: string[] | null }>(
    tx,
    "select after -> 'hidden' as hidden from changes where id = $1",
    [changeId],
  );
  return row?.hidden ?? [];
}

/** A change was taken back, with those that came with it. */
export const undo = (tx: Queries, changeId: string, at: string, by: string): Promise<unknown> =>
  tx.query('update changes set settles_at = null, undone_at = $2, undone_by = $3 where $1 in (id, part_of)', [
    changeId,
    at,
    by,
  ]);

/** True where somebody registered for, works at, or came to one of some events. */
export const anybodyAt = async (tx: Queries, eventIds: readonly string[]): Promise<boolean> =>
  eventIds.length > 0 &&
  (await first(
    tx,
    `select 1 as x from events e where e.id = any($1) and (exists (select 1 from orders o where o.event_id = e.id)
       or exists (select 1 from attendance a where a.event_id = e.id)
       or exists (select 1 from assignments a join shifts s on s.id = a.shift_id where s.event_id = e.id))`,
    [eventIds],
  )) !== null;

/** What was copied from events that are taken away stays, and no longer says so. */
export const leaveCopies = async (tx: Queries, eventIds: readonly string[]): Promise<void> => {
  if (eventIds.length)
    await tx.query('update events set copied_from = null where copied_from = any($1)', [eventIds]);
};

/** Lets what waits with a change go out at a moment. Answers how many letters. */
export async function letGoAt(tx: Queries, changeId: string, at: string): Promise<number> {
  const letters = await tx.query(
    "update messages set planned_for = $2, next_try_at = $2 where change_id in (select id from changes where $1 in (id, part_of)) and state = 'planned' returning id",
    [changeId, at],
  );
  await tx.query(
    'update change_returns set due_at = $2 where change_id in (select id from changes where $1 in (id, part_of)) and due_at is not null and cardinality(ways) = 1',
    [changeId, at],
  );
  return letters.length;
}

/** Orders that have seats held, offered or waited for and none confirmed, each with its buyer. */
export const waitingRecipients = (tx: Queries, eventId: string) =>
  tx.query<{
    orderId: string;
    contactId: string | null;
    name: string;
    email: string | null;
    language: 'en' | 'fr';
    quiet: QuietReason | null;
  }>(
    `select o.id as order_id, o.buyer_contact_id as contact_id, trim(o.buyer_given || ' ' || o.buyer_family) as name, ${orderEmail('o')} as email,
       o.language, ${whyQuiet('c')} as quiet
     from orders o left join contacts c on c.id = o.buyer_contact_id
     where o.event_id = $1 and exists (select 1 from registrations r where r.order_id = o.id and r.state in ('asked', 'held', 'offered', 'waitlisted'))
       and not exists (select 1 from registrations r where r.order_id = o.id and r.state = 'confirmed') order by o.placed_at, o.id`,
    [eventId],
  );

/** A shift somebody has, as it is to be said. */
export interface ShiftOf extends SaidShift {
  assignmentId: string;
  version: number;
}

/** Everybody on a shift that is still to come, with all of theirs. */
export const crewShifts = (tx: Queries, eventId: string, now: string) =>
  tx.query<{
    contactId: string;
    name: string;
    email: string | null;
    language: 'en' | 'fr';
    quiet: QuietReason | null;
    shifts: ShiftOf[];
  }>(
    `select a.contact_id, trim(c.given_name || ' ' || c.family_name) as name, ${emailOf('c.id')} as email, c.language, ${whyQuiet('c')} as quiet,
       jsonb_agg(jsonb_build_object('assignmentId', a.id, 'version', s.version, 'role', s.role, 'place', s.place,
         'startsLocal', to_char(s.starts_local, 'YYYY-MM-DD"T"HH24:MI'), 'endsLocal', to_char(s.ends_local, 'YYYY-MM-DD"T"HH24:MI'),
         'startsAt', to_char(s.starts_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"'),
         'endsAt', to_char(s.ends_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')) order by s.starts_at, a.id) as shifts
     from assignments a join shifts s on s.id = a.shift_id join contacts c on c.id = a.contact_id
     where s.event_id = $1 and s.removed_at is null and a.state in ('proposed', 'agreed') and s.ends_at > $2
     group by a.contact_id, c.id order by name, a.contact_id`,
    [eventId, now],
  );

/** Who speaks at an event, with the address on record. */
export const speakerRecipients = (tx: Queries, eventId: string) =>
  tx.query<{
    id: string;
    contactId: string | null;
    name: string;
    email: string | null;
    language: 'en' | 'fr';
    quiet: QuietReason | null;
  }>(
    `select s.id, s.contact_id, s.name, ${emailOf('s.contact_id')} as email, coalesce(c.language, 'en') as language, ${whyQuiet('c')} as quiet
     from speakers s left join contacts c on c.id = s.contact_id where s.event_id = $1 and s.removed_at is null order by s.position, s.id`,
    [eventId],
  );

const spanOfEvent = `e.starts_at as starts_at, greatest(${endSql('e')}, e.starts_at + interval '1 minute') as ends_at`;

/** Where the people of an event have to be for it, and when: crew and speakers, and those with a seat where they are asked for. */
export const engagementsHere = (tx: Queries, eventId: string, seats: boolean): Promise<Engagement[]> =>
  tx.query<Engagement>(
    `select a.contact_id, trim(c.given_name || ' ' || c.family_name) as name, 'shift' as of, s.starts_at, s.ends_at, a.id as assignment_id
       from assignments a join shifts s on s.id = a.shift_id join contacts c on c.id = a.contact_id
       where s.event_id = $1 and s.removed_at is null and a.state in ('proposed', 'agreed')
     union all
     select p.contact_id, p.name, 'session', ${spanOfEvent}, null
       from speakers p join events e on e.id = p.event_id
       where p.event_id = $1 and p.removed_at is null and p.contact_id is not null and e.starts_at is not null
     ${
       seats
         ? `union all
     select r.contact_id, trim(r.given_name || ' ' || r.family_name), 'seat', ${spanOfEvent}, null
       from registrations r join events e on e.id = r.event_id
       where r.event_id = $1 and r.state = 'confirmed' and r.contact_id is not null and e.starts_at is not null`
         : ''
     }`,
    [eventId],
  );

/** What some people have at other events that take place, in a time. */
export const engagementsElsewhere = (
  tx: Queries,
  eventId: string,
  contactIds: readonly string[],
  from: string,
  to: string,
): Promise<Elsewhere[]> =>
  tx.query<Elsewhere>(
    `with near as (select id, public_title as title, starts_at, ${endSql()} as ends_at from events
       where id <> $1 and not is_template and state not in ('called off', 'shelved', 'draft') and starts_at < $4 and ${endSql()} > $3)
     select r.contact_id, 'seat' as of, n.id as event_id, n.title, n.starts_at, n.ends_at from near n join registrations r on r.event_id = n.id
       where r.state = 'confirmed' and r.contact_id = any($2)
     union all
     select a.contact_id, 'shift', e.id, s.role || ' (' || e.public_title || ')', s.starts_at, s.ends_at
       from assignments a join shifts s on s.id = a.shift_id join events e on e.id = s.event_id
       where a.contact_id = any($2) and a.state in ('proposed', 'agreed') and s.removed_at is null and s.event_id <> $1
         and e.state not in ('called off', 'shelved') and s.starts_at < $4 and s.ends_at > $3
     union all
     select p.contact_id, 'session', n.id, n.title, n.starts_at, n.ends_at from near n join speakers p on p.event_id = n.id
       where p.removed_at is null and p.contact_id = any($2)
     order by starts_at, title`,
    [eventId, contactIds, from, to],
  );

/** Seats of an event whose age decides something, with what was signed for them. */
export const seatsByAge = (tx: Queries, eventId: string) =>
  tx.query<{
    contactId: string | null;
    name: string;
    birthDate: string | null;
    saidMinor: boolean;
    signedBy: 'self' | 'guardian' | null;
  }>(
    `select r.contact_id, trim(r.given_name || ' ' || r.family_name) as name, r.birth_date, r.said_minor,
       (select g.relation from signatures g where g.registration_id = r.id and g.state = 'valid'
          and e.waivers @> jsonb_build_array(jsonb_build_object('waiverId', g.waiver_id)) order by g.at desc limit 1) as signed_by
     from registrations r join events e on e.id = r.event_id where r.event_id = $1 and r.state = 'confirmed' and r.birth_date is not null order by name, r.id`,
    [eventId],
  );

/** A party with its confirmed seats of one offer. */
export interface SeatedAt extends SeatedParty {
  offerId: string;
  online: boolean;
  units: number;
}

/** Every party with confirmed seats, offer by offer. */
export const seatedParties = (tx: Queries, eventId: string): Promise<SeatedAt[]> =>
  tx.query<SeatedAt>(
    `select o.id as order_id, trim(o.buyer_given || ' ' || o.buyer_family) as name, r.offer_id, f.online, count(*)::int as seats,
       count(distinct r.unit_number)::int as units, max(r.confirmed_at) as confirmed_at
     from registrations r join orders o on o.id = r.order_id join offers f on f.id = r.offer_id
     where r.event_id = $1 and r.state = 'confirmed' group by o.id, r.offer_id, f.online`,
    [eventId],
  );

/** Who is on a shift of an event, by what puts them there; null where it is of another. */
export const assignmentHere = (
  tx: Queries,
  eventId: string,
  assignmentId: string,
): Promise<{ shiftId: string } | null> =>
  first<{ shiftId: string }>(
    tx,
    "select a.shift_id from assignments a join shifts s on s.id = a.shift_id where a.id = $1 and s.event_id = $2 and a.state in ('proposed', 'agreed')",
    [assignmentId, eventId],
  );

/** Orders of events of which money came in that is owed back by now. */
export const owedBack = (
  tx: Queries,
  eventIds: readonly string[],
): Promise<{ orderId: string; amount: number; currency: string }[]> =>
  tx.query<{ orderId: string; amount: number; currency: string }>(
    'select id as order_id, -balance as amount, currency from orders where event_id = any($1) and balance < 0 and received > 0 order by placed_at, id',
    [eventIds],
  );

/** Keeps the calendar file that goes with the letters of a change, by language. */
export const keepFiles = (
  tx: Queries,
  changeId: string,
  files: Readonly<Record<'en' | 'fr', string | null>>,
): Promise<void> =>
  insert(
    tx,
    'change_files',
    Object.entries(files).flatMap(([language, calendar]) =>
      calendar ? [{ changeId, language, calendar }] : [],
    ),
  );

/** The names of the offers that somebody has a confirmed seat in. */
export const offersTaken = async (tx: Queries, eventId: string): Promise<string[]> =>
  (
    await tx.query<{ name: string }>(
      `select distinct o.name from registrations r join offers o on o.id = r.offer_id
       where r.event_id = $1 and r.state = 'confirmed' order by o.name`,
      [eventId],
    )
  ).map((o) => o.name);
