import { takingPart } from '#core/crew/states.ts';
import type { AttendanceState } from '#core/doors/attendance.ts';
import { hasCome } from '#core/doors/attendance.ts';
import type { Findable } from '#core/doors/selfCheckIn.ts';
import type { Doubt, Entrant, TallyState } from '#core/outcomes/tally.ts';
import { plusMinutes } from '#core/time/clock.ts';
import type { App } from '../app/app.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { seatsToFind } from '../doors/store.ts';

/** A tally as it is kept. */
export interface TallyRow {
  id: string;
  eventId: string;
  measureId: string;
  value: number | null;
  thing: string;
  said: string;
  countedAt: string;
  place: string;
  note: string;
  byName: string;
  contactId: string | null;
  staffId: string | null;
  state: TallyState;
  doubts: Doubt[];
  decidedBy: string | null;
  why: string;
  enteredAt: string;
  version: number;
  picture: boolean;
}

const columns = `t.id, t.event_id, t.measure_id, t.value::float8 as value, t.thing, t.said, t.counted_at, t.place, t.note, t.by_name, t.contact_id, t.staff_id, t.state,
  t.doubts, t.decided_by, t.why, t.entered_at, t.version, exists (select 1 from tally_pictures p where p.tally_id = t.id) as picture`;

/** The tallies of an event, the newest first. */
export const readTallies = (tx: Queries, eventId: string): Promise<TallyRow[]> =>
  tx.query<TallyRow>(
    `select ${columns} from tallies t where t.event_id = $1 order by t.counted_at desc, t.entered_at desc, t.id`,
    [eventId],
  );

/** One tally of an event, kept for whoever changes it. */
export const readTally = (tx: Queries, eventId: string, id: string): Promise<TallyRow | null> =>
  first<TallyRow>(
    tx,
    `select ${columns} from tallies t where t.event_id = $1 and t.id = $2 for update of t`,
    [eventId, id],
  );

/** What counts of some measures at some events. */
export const readCounted = (tx: Queries, eventIds: readonly string[]) =>
  tx.query<Pick<TallyRow, 'eventId' | 'measureId' | 'value' | 'thing' | 'countedAt' | 'enteredAt'>>(
    "select event_id, measure_id, value::float8 as value, thing, counted_at, entered_at from tallies where event_id = any($1) and state = 'counted'",
    [eventIds],
  );

export const readCorrections = (tx: Queries, eventId: string) =>
  tx.query<{
    tallyId: string;
    before: Pick<TallyRow, 'said' | 'thing' | 'countedAt'>;
    why: string;
    actor: string;
    at: string;
  }>(
    `select c.tally_id, c.before, c.why, c.actor, c.at from tally_corrections c join tallies t on t.id = c.tally_id
     where t.event_id = $1 order by c.at, c.id`,
    [eventId],
  );

/** The last event before one that goes back to the same first one and counted something. */
export const readLastCounted = (tx: Queries, eventId: string) =>
  first<{ id: string; title: string }>(
    tx,
    `select b.id, b.public_title as title from events e join events b on b.first_of = e.first_of and b.id <> e.id and b.starts_at < e.starts_at
     where e.id = $1 and exists (select 1 from tallies t where t.event_id = b.id and t.state = 'counted')
     order by b.starts_at desc limit 1`,
    [eventId],
  );

/** Things that were named for some measures by somebody known, or looked at, the commonest first: what a stranger typed is not shown to others. */
export const readThings = (tx: Queries, measureIds: readonly string[]) =>
  tx.query<{ measureId: string; thing: string }>(
    `select measure_id, min(thing) as thing from tallies where measure_id = any($1) and state = 'counted' and thing <> ''
       and (contact_id is not null or staff_id is not null or decided_by is not null)
     group by measure_id, lower(thing) order by count(*) desc, min(thing) limit 200`,
    [measureIds],
  );

/** What an event took: who came, hours served, and what was spent, in minor units. */
export const readTook = async (tx: Queries, eventId: string) =>
  (await first<{ heads: number; hours: number; spent: number }>(
    tx,
    `select coalesce((select arrived from event_counts where event_id = $1), 0) as heads,
       coalesce((select sum(a.hours) from assignments a join shifts s on s.id = a.shift_id where s.event_id = $1 and a.state = 'served'), 0)::float8 as hours,
       coalesce((select sum(amount) from event_costs where event_id = $1 and taken_back_at is null), 0)::bigint as spent`,
    [eventId],
  ))!;

/** Somebody at an event who can be found by what they say of themselves. */
interface Present extends Findable {
  contactId: string | null;
  entrant: Entrant;
}

/** Everybody with a seat or a shift at an event, with what they can be known by and whether they were there. */
export async function peopleAt(tx: Queries, eventId: string): Promise<Present[]> {
  const crew = await tx.query<Findable & { contactId: string; there: boolean }>(
    `select c.id as registration_id, c.id as contact_id, c.given_name as given, c.family_name as family, x.there,
       array(select email from contact_emails m where m.contact_id = c.id and m.ended_on is null) as emails,
       array(select phone from contact_phones p where p.contact_id = c.id and p.ended_on is null) as phones
     from (select a.contact_id, bool_or(a.state in ${among(takingPart)}) as there from assignments a join shifts s on s.id = a.shift_id
       where s.event_id = $1 and a.state not in ('proposed', 'dropped') group by a.contact_id) x join contacts c on c.id = x.contact_id`,
    [eventId],
  );
  const come = await tx.query<{
    registrationId: string;
    contactId: string | null;
    attendance: AttendanceState | null;
  }>(
    `select r.id as registration_id, r.contact_id, a.state as attendance from registrations r left join attendance a on a.registration_id = r.id
     where r.event_id = $1 and r.state = 'confirmed'`,
    [eventId],
  );
  const byId = new Map(come.map((r) => [r.registrationId, r]));
  // Where nobody was ticked off, whoever holds a seat may have been there.
  const kept = come.some((r) => hasCome(r.attendance));
  const seats = (await seatsToFind(tx, eventId)).map((s): Present => {
    const { contactId = null, attendance = null } = byId.get(s.registrationId) ?? {};
    const there = kept ? hasCome(attendance) : attendance !== 'missed';
    return { ...s, contactId, entrant: { known: 'people', there } };
  });
  const ofCrew = crew.map(({ there, ...c }): Present => ({ ...c, entrant: { known: 'crew', there } }));
  const onShift = new Set(crew.map((c) => c.contactId));
  // Whoever helps and holds a seat is one of the crew.
  return [...ofCrew, ...seats.filter((s) => !s.contactId || !onShift.has(s.contactId))];
}

/** What somebody on record is called. */
export const nameOf = async (tx: Queries, contactId: string): Promise<string> =>
  (await first<{ name: string }>(
    tx,
    "select trim(given_name || ' ' || family_name) as name from contacts where id = $1",
    [contactId],
  ))!.name;

/** Keeps a picture until a tally names it. */
export const keepPicture = (tx: Queries, id: string, eventId: string, content: Buffer, now: string) =>
  tx.query(
    "insert into tally_pictures (id, event_id, content, at) values ($1, $2, decode($3, 'base64'), $4)",
    [id, eventId, content.toString('base64'), now],
  );

/** Bytes of pictures that wait at an event for a tally which may never come. */
export const looseBytes = async (tx: Queries, eventId: string): Promise<number> =>
  (await first<{ bytes: number }>(
    tx,
    'select coalesce(sum(length(content)), 0)::int as bytes from tally_pictures where event_id = $1 and tally_id is null',
    [eventId],
  ))!.bytes;

/** Gives a picture to the tally that names it; false where it is gone, or shows another. */
export const claimPicture = async (
  tx: Queries,
  id: string,
  eventId: string,
  tallyId: string,
): Promise<boolean> =>
  (
    await tx.query<{ id: string }>(
      'update tally_pictures set tally_id = $3 where id = $1 and event_id = $2 and tally_id is null returning id',
      [id, eventId, tallyId],
    )
  ).length > 0;

export const readPicture = (tx: Queries, eventId: string, tallyId: string) =>
  first<{ content: Uint8Array }>(
    tx,
    'select p.content from tally_pictures p where p.event_id = $1 and p.tally_id = $2',
    [eventId, tallyId],
  );

/** The next moment at which a picture that no tally named is let go: a day after it came. */
export const nextLoosePictureSql = `select at + interval '24 hours' as at, id from tally_pictures where tally_id is null order by at, id limit 1`;

/** Lets go of pictures that waited long enough. */
export const dropLoosePictures = async (app: App, now: string): Promise<void> => {
  await app.db.query('delete from tally_pictures where tally_id is null and at <= $1', [
    plusMinutes(now, -24 * 60),
  ]);
};
