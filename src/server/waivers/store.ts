import type { RegistrationState } from '#core/registration/states.ts';
import { ageStanding, needOf, type WaiverAudience } from '#core/waivers/needs.ts';
import type { Clause } from '#core/waivers/signing.ts';
import { first, type Queries } from '../db/database.ts';

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

/** What the waiver of an event asks of each of its seats; nothing where none is asked there. */
export async function waiverNeeds(
  tx: Queries,
  event: { id: string; waiverId: string | null; startsLocal: string | null },
  ageOfMajority: number,
  today: string,
  orderId: string | null = null,
): Promise<SeatNeed[]> {
  const waiver = await readWaiver(tx, event.waiverId);
  if (!waiver) return [];
  const rows = await tx.query<
    Omit<SeatNeed, 'age' | 'standing'> & { birthDate: string | null; saidMinor: boolean; signed: boolean }
  >(
    `select r.id, r.order_id, r.state, r.given_name || r.family_name <> '' as named, r.birth_date, r.said_minor,
       exists (select 1 from signatures g where g.registration_id = r.id and g.waiver_id = $2 and g.state = 'valid') as signed
     from registrations r where r.event_id = $1 ${orderId ? 'and r.order_id = $3' : ''}`,
    orderId ? [event.id, waiver.id, orderId] : [event.id, waiver.id],
  );
  const date = event.startsLocal?.slice(0, 10) ?? today;
  return rows.map(({ id, orderId, state, named, signed, ...person }) => ({
    id,
    orderId,
    state,
    named,
    age: ageStanding(person, date, ageOfMajority),
    standing: signed ? 'signed' : needOf(waiver.audience, person, date, ageOfMajority),
  }));
}

/** True where a seat is confirmed and somebody still has to sign for it. */
export const stillToSign = ({ state, standing }: SeatNeed): boolean =>
  state === 'confirmed' && (standing === 'self' || standing === 'guardian');

/** What is still asked of each seat of an event: by registration id. */
export const waiverStandings = async (
  ...asked: Parameters<typeof waiverNeeds>
): Promise<Map<string, WaiverStanding>> =>
  new Map((await waiverNeeds(...asked)).map((need) => [need.id, need.standing]));
