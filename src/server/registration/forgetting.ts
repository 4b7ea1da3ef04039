import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { endSql } from '../events/end.ts';

/** The next event whose sensitive answers are to be deleted, so many days after its end. */
export const nextForgettingSql = `select ${endSql('e')} + e.forget_days * interval '1 day' as at, e.id from events e
  where e.state in ('closed', 'wrapped', 'called off') and e.starts_at is not null and exists (
    select 1 from questions q join answers a on a.question_id = q.id where q.event_id = e.id and q.sensitive)
  order by 1, 2 limit 1`;

/** Deletes the sensitive answers of an event, with files among them. What was kept on a record stays there. */
export async function forgetAnswers(w: Work, eventId: string): Promise<void> {
  const gone = await w.tx.query<{ value: unknown; kind: string }>(
    `delete from answers a using questions q where q.id = a.question_id and q.event_id = $1 and q.sensitive returning a.value, q.kind`,
    [eventId],
  );
  await w.tx.query('delete from answer_files where event_id = $1 and id::text = any($2)', [
    eventId,
    gone.filter((a) => a.kind === 'file').map((a) => String(a.value)),
  ]);
  await record(w, 'answers forgotten', { eventId, answers: gone.length });
}
