import type { Pair, PairSide } from '#contract/pairs.ts';
import type { Finding } from '#core/contacts/match.ts';
import { onShift } from '#core/crew/states.ts';
import { came } from '#core/doors/attendance.ts';
import type { Reason } from '#core/words/reasons.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { textColumns } from './columns.ts';

/** Two contacts that may be one, as they were found. */
export interface PairRow extends Omit<Pair, 'a' | 'b' | 'held' | 'findings'> {
  held: Reason | null;
  findings: Finding[];
  contactA: string;
  contactB: string;
  state: string;
}
const pairColumns = 'id, contact_a, contact_b, probability, outcome, held, found_by, findings, state';

/** What two contacts are compared by on the screen. */
export const readSides = (tx: Queries, ids: readonly string[]): Promise<PairSide[]> =>
  tx.query<PairSide>(
    `select c.id, given_name as given, family_name as family, birth_date, street, postal_code, language, ${textColumns('c')}, do_not_contact,
       household_id is not null as household, source, created_at,
       coalesce((select array_agg(email order by position, id) from contact_emails where contact_id = c.id), '{}') as emails,
       coalesce((select array_agg(phone order by position, id) from contact_phones where contact_id = c.id), '{}') as phones,
       (select count(*)::int from registrations where contact_id = c.id) as seats,
       (select count(*)::int from attendance where contact_id = c.id and state in ${among(came)}) as attended,
       (select count(*)::int from assignments where contact_id = c.id and state in ${among(onShift)}) as shifts,
       (select count(*)::int from donations where contact_id = c.id) as gifts,
       (select max(arrived_at) from attendance where contact_id = c.id) as last_seen
     from contacts c where c.id = any($1)`,
    [ids],
  );

/** A pair; whoever decides it as well waits. */
export const lockPair = (tx: Queries, id: string): Promise<PairRow | null> =>
  first<PairRow>(tx, `select ${pairColumns} from pairs where id = $1 for update`, [id]);

/** The open pairs from a probability on, the likeliest first. */
export const readOpenPairs = (
  tx: Queries,
  from: number,
  { limit, offset }: { limit: number; offset: number },
): Promise<PairRow[]> =>
  tx.query<PairRow>(
    `select ${pairColumns} from pairs where state = 'open' and probability >= $1
     order by probability desc, id limit ${limit} offset ${offset}`,
    [from],
  );

/** The open pairs that nothing holds back from being decided without a look, from a probability on. */
export const readSurePairs = (tx: Queries, from: number): Promise<PairRow[]> =>
  tx.query<PairRow>(
    `select ${pairColumns} from pairs where state = 'open' and held is null and probability >= $1 order by probability desc, id`,
    [from],
  );

/** How many open pairs there are at each hundredth of probability. */
export const countByHundredth = (tx: Queries): Promise<{ at: number; n: number }[]> =>
  tx.query<{ at: number; n: number }>(
    "select least(99, floor(probability * 100))::int as at, count(*)::int as n from pairs where state = 'open' group by 1",
  );

/** The probabilities of what could be decided without a look, the highest first. */
export const sureProbabilities = async (tx: Queries): Promise<number[]> =>
  (
    await tx.query<{ p: number }>(
      "select probability as p from pairs where state = 'open' and held is null and probability >= 0.9 order by probability desc",
    )
  ).map((s) => s.p);

export const countPairs = async (tx: Queries, from: number): Promise<{ open: number; decided: number }> =>
  (await first<{ open: number; decided: number }>(
    tx,
    `select count(*) filter (where state = 'open' and probability >= $1)::int as open,
       count(*) filter (where state <> 'open')::int as decided from pairs`,
    [from],
  ))!;
