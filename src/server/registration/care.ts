import { sayAnswer } from '#core/questions/answering.ts';
import type { Queries } from '../db/database.ts';

/** Answers that are for the door; with `all`, those that are sensitive too. As SQL over a question. */
const forCare = (all: boolean): string =>
  all ? "(q.seen_by = 'door' or q.sensitive)" : "q.seen_by = 'door'";

/**
 * Signatures that count for a seat and say something about who takes part, as SQL over a registration: given for the seat, or for its person
 * in a time in which the event lies.
 */
const signedWithAnswers = (
  r: string,
  more = '',
): string => `signatures g join events e on e.id = ${r}.event_id${more}
  where g.state = 'valid' and g.answers <> '[]' and (g.registration_id = ${r}.id or (g.contact_id = ${r}.contact_id and g.known_at is not null
    and e.starts_local::date between g.holds_from and g.holds_until))`;

/** True where there is something to know of a seat that is for the door, or sensitive, as SQL over a registration and its order. */
export const hasCareSql = (r: string, o: string, all = false): string => `(
  exists (select 1 from answers x join questions q on q.id = x.question_id
    where ${forCare(all)} and (x.registration_id = ${r}.id or (x.registration_id is null and x.order_id = ${o}.id)))
  or exists (select 1 from contacts k where k.id = ${r}.contact_id and k.dietary is not null)
  or exists (select 1 from ${signedWithAnswers(r)}))`;

/** What there is to know about somebody's health and needs: of their record, and what was answered for the door; with `all`, every sensitive answer. */
export async function readCare(tx: Queries, registrationId: string, all: boolean): Promise<string[]> {
  const [row] = await tx.query<{
    dietary: string | null;
    answers: { question: string; value: never }[];
    signed: { prompt: string; value: never }[];
  }>(
    `select c.dietary, coalesce((select jsonb_agg(jsonb_build_object('question', q.prompt->>'en', 'value', x.value) order by q.position)
         from answers x join questions q on q.id = x.question_id
         where ${forCare(all)} and (x.registration_id = r.id or (x.registration_id is null and x.order_id = r.order_id))), '[]') as answers,
       coalesce((select jsonb_agg(a order by g.at, g.id) from ${signedWithAnswers('r', ', jsonb_array_elements(g.answers) a')}), '[]') as signed
     from registrations r left join contacts c on c.id = r.contact_id where r.id = $1`,
    [registrationId],
  );
  if (!row) return [];
  return [
    ...(row.dietary ? [row.dietary] : []),
    ...row.answers.map((a) => `${a.question} ${sayAnswer(a.value)}`),
    ...new Set(row.signed.map((a) => `${a.prompt} ${sayAnswer(a.value)}`)),
  ];
}
