import type { RegistrationState } from '#core/registration/states.ts';
import { ageStanding, covers, needOf, type WaiverAudience } from '#core/waivers/needs.ts';
import type { Clause } from '#core/waivers/signing.ts';
import { byOwner, first, type Queries } from '../db/database.ts';

export interface WaiverRow {
  id: string;
  title: string;
  version: number;
  audience: WaiverAudience;
  clauses: Clause[];
}

export const readWaiver = (tx: Queries, id: string | null): Promise<WaiverRow | null> =>
  id
    ? first<WaiverRow>(tx, 'select id, title, version, audience, clauses from waivers where id = $1', [id])
    : Promise.resolve(null);

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

export type WaiverStanding = 'not asked' | 'self' | 'guardian' | 'signed';

/** What is asked of one seat. */
export interface SeatNeed {
  id: string;
  orderId: string;
  state: RegistrationState;
  /** Whether it is known who sits there. */
  named: boolean;
  age: ReturnType<typeof ageStanding>;
  standing: WaiverStanding;
}

interface Asking {
  id: string;
  waiverId: string | null;
  startsLocal: string | null;
}
type SeatRead = Omit<SeatNeed, 'age' | 'standing'> & {
  eventId: string;
  birthDate: string | null;
  saidMinor: boolean;
  signedBy: 'self' | 'guardian' | null;
};
const seatSql = `select r.event_id, r.id, r.order_id, r.state, r.given_name || r.family_name <> '' as named, r.birth_date, r.said_minor,
  (select g.relation from signatures g where g.registration_id = r.id and g.waiver_id = e.waiver_id and g.state = 'valid' order by g.at desc limit 1) as signed_by
  from registrations r join events e on e.id = r.event_id`;

/** What the waivers of some events ask of each of their seats; nothing where none is asked. */
export async function waiverNeedsOf(
  tx: Queries,
  events: readonly Asking[],
  ageOfMajority: number,
  today: string,
): Promise<ReadonlyMap<string, SeatNeed[]>> {
  const asking = events.filter((e) => e.waiverId);
  const needs = new Map<string, SeatNeed[]>(events.map((e) => [e.id, []]));
  if (!asking.length) return needs;
  const waivers = await tx.query<{ id: string; audience: WaiverAudience }>(
    'select id, audience from waivers where id = any($1)',
    [asking.map((e) => e.waiverId)],
  );
  const ids = asking.map((e) => e.id);
  const rows = byOwner(
    ids,
    await tx.query<SeatRead>(`${seatSql} where r.event_id = any($1)`, [ids]),
    (row) => row.eventId,
  );
  for (const event of asking) {
    const { audience } = waivers.find((w) => w.id === event.waiverId)!;
    needs.set(event.id, needsFrom(rows.get(event.id)!, event, audience, ageOfMajority, today));
  }
  return needs;
}

/** What the waiver of an event asks of each of its seats, or of those of one order; nothing where none is asked there. */
export async function waiverNeeds(
  tx: Queries,
  event: Asking,
  ageOfMajority: number,
  today: string,
  orderId: string | null = null,
): Promise<SeatNeed[]> {
  const waiver = await readWaiver(tx, event.waiverId);
  if (!waiver) return [];
  const rows = await tx.query<SeatRead>(
    `${seatSql} where r.event_id = $1 ${orderId ? 'and r.order_id = $2' : ''}`,
    orderId ? [event.id, orderId] : [event.id],
  );
  return needsFrom(rows, event, waiver.audience, ageOfMajority, today);
}

function needsFrom(
  rows: readonly SeatRead[],
  event: Asking,
  audience: WaiverAudience,
  ageOfMajority: number,
  today: string,
): SeatNeed[] {
  const date = event.startsLocal?.slice(0, 10) ?? today;
  return rows.map(({ id, orderId, state, named, signedBy, eventId: _, ...person }) => {
    const age = ageStanding(person, date, ageOfMajority);
    return {
      id,
      orderId,
      state,
      named,
      age,
      // Signed for another day, somebody may be of another age on this one.
      standing: signedBy && covers(signedBy, age) ? 'signed' : needOf(audience, person, date, ageOfMajority),
    };
  });
}

/** True where a seat is confirmed and somebody still has to sign for it. */
export const stillToSign = ({ state, standing }: SeatNeed): boolean =>
  state === 'confirmed' && (standing === 'self' || standing === 'guardian');

/** What is still asked of each seat of an event: by registration id. */
export const waiverStandings = async (
  ...asked: Parameters<typeof waiverNeeds>
): Promise<Map<string, WaiverStanding>> =>
  new Map((await waiverNeeds(...asked)).map((need) => [need.id, need.standing]));

/** What was signed last for a seat, as far as it still holds. */
export const readSignature = (tx: Queries, registrationId: string) =>
  first<{ text: string; sha256: string; typedName: string; relation: string; at: string }>(
    tx,
    "select signed_text as text, sha256, typed_name, relation, at from signatures where registration_id = $1 and state = 'valid' order by at desc limit 1",
    [registrationId],
  );
