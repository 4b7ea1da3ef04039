import { needOf, type WaiverAudience } from '#core/waivers/needs.ts';
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

/** What is still asked of each seat of an event: by registration id. */
export async function waiverStandings(
  tx: Queries,
  event: { id: string; waiverId: string | null; startsLocal: string | null },
  ageOfMajority: number,
  today: string,
): Promise<Map<string, WaiverStanding>> {
  const waiver = await readWaiver(tx, event.waiverId);
  if (!waiver) return new Map();
  const rows = await tx.query<{ id: string; birthDate: string | null; saidMinor: boolean; signed: boolean }>(
    `select r.id, r.birth_date, r.said_minor,
       exists (select 1 from signatures g where g.registration_id = r.id and g.waiver_id = $2 and g.state = 'valid') as signed
     from registrations r where r.event_id = $1`,
    [event.id, waiver.id],
  );
  const date = event.startsLocal?.slice(0, 10) ?? today;
  return new Map(
    rows.map((r) => [r.id, r.signed ? 'signed' : needOf(waiver.audience, r, date, ageOfMajority)]),
  );
}
