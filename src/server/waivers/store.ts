import type { RegistrationState } from '#core/registration/states.ts';
import {
  ageStanding,
  nothingToSign,
  type Signing,
  signingOf,
  type WaiverAudience,
  type WaiverStanding,
} from '#core/waivers/needs.ts';
import type { Clause } from '#core/waivers/signing.ts';
import { byOwner, first, type Queries } from '../db/database.ts';

/** A waiver as it is read and signed. */
export interface WaiverRow {
  id: string;
  title: string;
  version: number;
  clauses: Clause[];
}

/** A waiver as it is asked at an event: by the event itself, or by offers of it. */
interface AskedAt extends WaiverRow {
  eventId: string;
  audience: WaiverAudience;
  /** Whether everybody is asked; else only those of some offers. */
  ofEvent: boolean;
}

/** Read waiver by waiver, then who asks for each: of a thousand events few have another one. */
const askedAtSql = `select e.id as event_id, w.id, w.title, w.version, w.audience, w.clauses, w.id is not distinct from e.waiver_id as of_event
  from events e join lateral (select e.waiver_id as id union select f.waiver_id from offers f where f.event_id = e.id and f.removed_at is null) x on x.id is not null
    join waivers w on w.id = x.id
  where e.id = any($1) order by w.id is not distinct from e.waiver_id desc, w.title, w.id`;

/** The waivers that are signed at an event, that of the event first. */
export const waiversAt = (tx: Queries, eventId: string): Promise<AskedAt[]> =>
  tx.query<AskedAt>(askedAtSql, [[eventId]]);

/** A waiver as it is read and signed, without who is asked for it. */
export const asRead = ({ id, title, version, clauses }: WaiverRow): WaiverRow => ({
  id,
  title,
  version,
  clauses,
});

/** A seat as far as signing for whoever sits there asks. */
export interface Signer {
  id: string;
  orderId: string;
  eventId: string;
  contactId: string | null;
  givenName: string;
  familyName: string;
}

export const readSigner = (tx: Queries, registrationId: string): Promise<Signer | null> =>
  first<Signer>(
    tx,
    'select id, order_id, event_id, contact_id, given_name, family_name from registrations where id = $1',
    [registrationId],
  );

/** What is asked of one seat. */
export interface SeatNeed extends Signing {
  id: string;
  orderId: string;
  state: RegistrationState;
  /** Whether it is known who sits there. */
  named: boolean;
  age: ReturnType<typeof ageStanding>;
}

interface Asking {
  id: string;
  startsLocal: string | null;
}
type SeatRead = Omit<SeatNeed, 'age' | keyof Signing> & {
  eventId: string;
  birthDate: string | null;
  saidMinor: boolean;
  /** The waiver of its offer. */
  waiverId: string | null;
  /** Who signed what for it, by waiver. */
  signed: Record<string, 'self' | 'guardian'>;
};
/** What tells seats apart as far as signing goes. */
const tellsApart = `r.given_name || r.family_name <> '' as named, r.birth_date, r.said_minor, f.waiver_id, coalesce(g.signed, '{}') as signed`;
/** Seats of the events $1, or of the orders $2 there, with what is signed for each. */
const seatsFrom = (ofOrders = false): string => {
  const which = (of: string) => `${of}.event_id = any($1)${ofOrders ? ` and ${of}.order_id = any($2)` : ''}`;
  return `registrations r join offers f on f.id = r.offer_id
    left join (select g.registration_id, jsonb_object_agg(g.waiver_id, g.relation) as signed
      from signatures g join registrations q on q.id = g.registration_id where ${which('q')} and g.state = 'valid' group by 1) g
      on g.registration_id = r.id
    where ${which('r')}`;
};

const readSeatNeeds = (
  tx: Queries,
  eventIds: readonly string[],
  orderIds: readonly string[] | null,
): Promise<SeatRead[]> =>
  tx.query<SeatRead>(
    `select r.event_id, r.id, r.order_id, r.state, ${tellsApart} from ${seatsFrom(orderIds !== null)}`,
    orderIds ? [eventIds, orderIds] : [eventIds],
  );

/** The waivers of each of some events, and those of the events that have any. */
async function whatIsAsked(tx: Queries, events: readonly Asking[]) {
  const ids = events.map((e) => e.id);
  const asked = byOwner(ids, ids.length ? await tx.query<AskedAt>(askedAtSql, [ids]) : [], (w) => w.eventId);
  return { asked, asking: events.filter((e) => asked.get(e.id)!.length > 0) };
}

/** What the waivers of some events ask of each of their seats; nothing where none is asked. */
export async function waiverNeedsOf(
  tx: Queries,
  events: readonly Asking[],
  ageOfMajority: number,
  today: string,
  /** Only the seats of these bookings; all of them where none are named. */
  orderIds: readonly string[] | null = null,
): Promise<ReadonlyMap<string, SeatNeed[]>> {
  const needs = new Map<string, SeatNeed[]>(events.map((e) => [e.id, []]));
  const { asked, asking } = await whatIsAsked(tx, events);
  if (!asking.length) return needs;
  const rows = byOwner(
    asking.map((e) => e.id),
    await readSeatNeeds(
      tx,
      asking.map((e) => e.id),
      orderIds,
    ),
    (row) => row.eventId,
  );
  for (const event of asking)
    needs.set(event.id, needsFrom(rows.get(event.id)!, event, asked.get(event.id)!, ageOfMajority, today));
  return needs;
}

/** What the waivers of an event ask of each of its seats, or of those of one order; nothing where none is asked there. */
export const waiverNeeds = async (
  tx: Queries,
  event: Asking,
  ageOfMajority: number,
  today: string,
  orderId: string | null = null,
): Promise<SeatNeed[]> =>
  (await waiverNeedsOf(tx, [event], ageOfMajority, today, orderId ? [orderId] : null)).get(event.id)!;

const needsFrom = (
  rows: readonly SeatRead[],
  event: Asking,
  waivers: readonly AskedAt[],
  ageOfMajority: number,
  today: string,
): SeatNeed[] =>
  rows.map((row) => ({
    id: row.id,
    orderId: row.orderId,
    state: row.state,
    named: row.named,
    ...needFrom(row, event, waivers, ageOfMajority, today),
  }));

function needFrom(
  {
    signed,
    waiverId,
    birthDate,
    saidMinor,
  }: Pick<SeatRead, 'signed' | 'waiverId' | 'birthDate' | 'saidMinor'>,
  event: Asking,
  waivers: readonly AskedAt[],
  ageOfMajority: number,
  today: string,
): Signing & Pick<SeatNeed, 'age'> {
  const person = { birthDate, saidMinor };
  const date = event.startsLocal?.slice(0, 10) ?? today;
  return {
    age: ageStanding(person, date, ageOfMajority),
    ...signingOf(
      waivers
        .filter((w) => w.ofEvent || w.id === waiverId)
        .map((w) => ({ id: w.id, audience: w.audience, signedBy: signed[w.id] ?? null })),
      person,
      date,
      ageOfMajority,
    ),
  };
}

const isOpen = ({ standing }: Signing): boolean => standing === 'self' || standing === 'guardian';

/** True where a seat is confirmed and somebody still has to sign for it. */
export const stillToSign = (need: SeatNeed): boolean => need.state === 'confirmed' && isOpen(need);

/** How many confirmed seats that somebody still has to sign for are alike. */
export interface Unsigned extends Pick<SeatNeed, 'named' | 'age'> {
  seats: number;
}

/**
 * What is still to be signed for the confirmed seats of some events. They are counted where they are, as far as they are alike: a
 * season has tens of thousands.
 */
export async function unsignedAt(
  tx: Queries,
  events: readonly Asking[],
  ageOfMajority: number,
  today: string,
): Promise<ReadonlyMap<string, Unsigned[]>> {
  const { asked, asking } = await whatIsAsked(tx, events);
  if (!asking.length) return new Map();
  const ids = asking.map((e) => e.id);
  const rows = await tx.query<Omit<SeatRead, 'id' | 'orderId' | 'state'> & { seats: number }>(
    `select r.event_id, ${tellsApart}, count(*)::int as seats from ${seatsFrom()} and r.state = 'confirmed' group by 1, 2, 3, 4, 5, 6`,
    [ids],
  );
  const byEvent = byOwner(ids, rows, (row) => row.eventId);
  return new Map(
    asking.map((event) => [
      event.id,
      byEvent.get(event.id)!.flatMap((row) => {
        const need = needFrom(row, event, asked.get(event.id)!, ageOfMajority, today);
        return isOpen(need) ? [{ named: row.named, age: need.age, seats: row.seats }] : [];
      }),
    ]),
  );
}

/** What is signed at an event, and how it stands with each of its seats, or with those of one order. */
export interface SigningAt {
  waivers: readonly AskedAt[];
  /** Of a seat, whatever its state. */
  need(registrationId: string): Signing;
  /** Of a seat as it is told: who has none for certain has nothing to sign yet. */
  of(seat: { id: string; state: RegistrationState }): { waiver: WaiverStanding; toSign: string[] };
  /** The texts of some of the waivers. */
  texts(ids: readonly string[]): WaiverRow[];
}

export async function signingAt(
  tx: Queries,
  event: Asking,
  ageOfMajority: number,
  today: string,
  orderId: string | null = null,
): Promise<SigningAt> {
  const waivers = await waiversAt(tx, event.id);
  const rows = waivers.length ? await readSeatNeeds(tx, [event.id], orderId ? [orderId] : null) : [];
  const needs = new Map(needsFrom(rows, event, waivers, ageOfMajority, today).map((need) => [need.id, need]));
  const need = (id: string): Signing => needs.get(id) ?? nothingToSign;
  return {
    waivers,
    need,
    of({ id, state }) {
      const { standing, toSign } = state === 'confirmed' ? need(id) : nothingToSign;
      return { waiver: standing, toSign };
    },
    texts: (ids) => waivers.filter((w) => ids.includes(w.id)).map(asRead),
  };
}

/** What was signed for a seat, as far as it still holds; newest first. */
export const readSignatures = (tx: Queries, registrationId: string) =>
  tx.query<{ title: string; text: string; sha256: string; typedName: string; relation: string; at: string }>(
    `select w.title, g.signed_text as text, g.sha256, g.typed_name, g.relation, g.at from signatures g join waivers w on w.id = g.waiver_id
     where g.registration_id = $1 and g.state = 'valid' order by g.at desc, g.id desc`,
    [registrationId],
  );
