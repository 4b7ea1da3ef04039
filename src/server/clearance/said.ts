import type { Work } from '../app/app.ts';
import { first, insert, type Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';

export type WordKind = 'word' | 'question' | 'answer' | 'decision' | 'sent' | 'granted' | 'not granted';

export interface WordRow {
  id: string;
  kind: WordKind;
  stepId: string | null;
  step: string | null;
  body: string;
  decision: 'clear' | 'clear with conditions' | 'send back' | 'refuse' | null;
  answers: string | null;
  author: string;
  at: string;
  mentions: string[];
}

/** Everything that was said about the clearance of an event, in order. */
export const readSaid = (tx: Queries, eventId: string): Promise<WordRow[]> =>
  tx.query<WordRow>(
    `select w.id, w.kind, w.step_id, s.step, w.body, w.decision, w.answers, w.author, w.at,
       array(select p.name from staff p where p.id = any(w.mentions) order by p.name) as mentions
     from clearance_words w left join clearance_steps s on s.id = w.step_id where w.event_id = $1 order by w.at, w.id`,
    [eventId],
  );

/** Questions of an event that nobody has answered, asked of the steps it still needs. */
export const openQuestions = (tx: Queries, eventId: string): Promise<{ id: string; body: string }[]> =>
  tx.query<{ id: string; body: string }>(
    `select q.id, q.body from clearance_words q left join clearance_steps s on s.id = q.step_id
     where q.event_id = $1 and q.kind = 'question' and s.state is distinct from 'not needed'
       and not exists (select 1 from clearance_words a where a.answers = q.id) order by q.at, q.id`,
    [eventId],
  );

/** A question, held until the transaction is over; throws 404. */
export async function theQuestion(
  tx: Queries,
  id: string,
): Promise<{ eventId: string; stepId: string | null; answered: boolean }> {
  const row = await first<{ eventId: string; stepId: string | null; answered: boolean }>(
    tx,
    `select q.event_id, q.step_id, exists (select 1 from clearance_words a where a.answers = q.id) as answered
     from clearance_words q where q.id = $1 and q.kind = 'question' for update of q`,
    [id],
  );
  if (!row) throw notFound('This question');
  return row;
}

/** Writes down what somebody said. Answers its id. */
export async function say(
  w: Work,
  word: { eventId: string; kind: WordKind; body: string } & Partial<
    Pick<WordRow, 'stepId' | 'decision' | 'answers' | 'mentions'>
  >,
): Promise<string> {
  const id = w.app.ids.id();
  await insert(w.tx, 'clearance_words', {
    id,
    stepId: null,
    decision: null,
    answers: null,
    mentions: [],
    ...word,
    authorId: w.actor.staffId,
    author: w.actor.name,
    at: w.now,
  });
  return id;
}
