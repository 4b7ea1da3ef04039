import type { ProposedEvent } from '#contract/proposed.ts';
import { first, type Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';

interface Opening {
  open: boolean;
  words: { en: string; fr?: string };
}

/** Whether anybody may propose an event, and what they are told. */
export const readOpening = async (tx: Queries): Promise<Opening> =>
  (await first<Opening>(tx, 'select proposals_open as open, proposals_words as words from organization'))!;

export const saveOpening = (tx: Queries, { open, words }: Opening): Promise<unknown> =>
  tx.query('update organization set proposals_open = $1, proposals_words = $2::jsonb', [
    open,
    JSON.stringify(words),
  ]);

/** How many proposed events nobody has decided. */
export async function countWaiting(tx: Queries): Promise<number> {
  const row = await first<{ n: number }>(
    tx,
    "select count(*)::int as n from event_proposals p join events e on e.id = p.event_id where p.state = 'new' and e.state = 'draft'",
  );
  return row!.n;
}

export interface ProposalRow extends ProposedEvent {
  id: string;
  language: 'en' | 'fr';
}

const columns =
  'id, contact_id, name, email, phone, language, about, wishes, state, words, proposed_at, decided_by';

/** The proposal an event came from; null where it came from none. */
export const readProposalOf = (tx: Queries, eventId: string): Promise<ProposalRow | null> =>
  first<ProposalRow>(tx, `select ${columns} from event_proposals where event_id = $1`, [eventId]);

/** The same, held until the transaction is over; throws 404. */
export async function theProposalOf(tx: Queries, eventId: string): Promise<ProposalRow> {
  const row = await first<ProposalRow>(
    tx,
    `select ${columns} from event_proposals where event_id = $1 for update`,
    [eventId],
  );
  if (!row) throw notFound('This proposal');
  return row;
}

/** What those who plan an event see of its proposal. */
export async function shownProposal(tx: Queries, eventId: string): Promise<ProposedEvent | null> {
  const row = await readProposalOf(tx, eventId);
  if (!row) return null;
  const { id: _, language: __, ...shown } = row;
  return shown;
}
