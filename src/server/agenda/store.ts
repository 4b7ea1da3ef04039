import type { SessionProposal } from '#contract/agenda.ts';
import { first, insert, type Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';

const columns =
  'id, title, about, minutes, speaker_name, speaker_line, email, contact_id, state, words, proposed_at, decided_by';

/** What people proposed for an event, undecided first, oldest first. */
export const readProposals = (tx: Queries, eventId: string): Promise<SessionProposal[]> =>
  tx.query<SessionProposal>(
    `select ${columns} from session_proposals where event_id = $1 order by state <> 'new', proposed_at, id`,
    [eventId],
  );

interface ProposalRow extends SessionProposal {
  eventId: string;
  /** In which they are written to. */
  language: 'en' | 'fr';
}

/** One proposal, held until the transaction is over; throws 404. */
export async function readProposal(tx: Queries, id: string): Promise<ProposalRow> {
  const row = await first<ProposalRow>(
    tx,
    `select event_id, language, ${columns} from session_proposals where id = $1 for update`,
    [id],
  );
  if (!row) throw notFound('This proposal');
  return row;
}

export async function countProposals(tx: Queries, eventId: string): Promise<number> {
  const row = await first<{ n: number }>(
    tx,
    "select count(*)::int as n from session_proposals where event_id = $1 and state = 'new'",
    [eventId],
  );
  return row!.n;
}

/** The sessions that some seats have. */
export const readChosen = (
  tx: Queries,
  registrationIds: readonly string[],
): Promise<{ registrationId: string; sessionId: string }[]> =>
  tx.query<{ registrationId: string; sessionId: string }>(
    `select t.registration_id, t.session_id from session_seats t join agenda_sessions s on s.id = t.session_id
     where t.registration_id = any($1) and s.removed_at is null order by t.at`,
    [registrationIds],
  );

/** Holds the sessions of an event: whoever takes a seat at one comes after. */
export const holdSessions = (tx: Queries, eventId: string): Promise<unknown> =>
  tx.query('select id from agenda_sessions where event_id = $1 order by id for update', [eventId]);

/** Brings the sessions of a seat to those chosen. */
export async function saveChosen(
  tx: Queries,
  registrationId: string,
  sessionIds: readonly string[],
  now: string,
): Promise<void> {
  await tx.query('delete from session_seats where registration_id = $1 and session_id <> all($2::uuid[])', [
    registrationId,
    sessionIds,
  ]);
  await insert(
    tx,
    'session_seats',
    sessionIds.map((sessionId) => ({ sessionId, registrationId, at: now })),
    'on conflict do nothing',
  );
}
