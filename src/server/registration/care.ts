import { sayAnswer } from '#core/registration/questions.ts';
import type { Queries } from '../db/database.ts';

/** True where there is something about health to know of a seat, as SQL over a registration and its order. */
export const hasCareSql = (r: string, o: string): string => `(
  exists (select 1 from answers x join questions q on q.id = x.question_id
    where q.at_door and (x.registration_id = ${r}.id or (x.registration_id is null and x.order_id = ${o}.id)))
  or exists (select 1 from contacts k where k.id = ${r}.contact_id and k.dietary is not null))`;

/** What the door has to know about somebody's health and needs: of their record, and what was answered for the door. */
export async function readCare(tx: Queries, registrationId: string): Promise<string[]> {
  const [row] = await tx.query<{
    dietary: string | null;
    answers: { question: string; value: never }[];
  }>(
    `select c.dietary, coalesce((select jsonb_agg(jsonb_build_object('question', q.prompt->>'en', 'value', x.value) order by q.position)
         from answers x join questions q on q.id = x.question_id
         where q.at_door and (x.registration_id = r.id or (x.registration_id is null and x.order_id = r.order_id))), '[]') as answers
     from registrations r left join contacts c on c.id = r.contact_id where r.id = $1`,
    [registrationId],
  );
  if (!row) return [];
  return [
    ...(row.dietary ? [row.dietary] : []),
    ...row.answers.map((a) => `${a.question} ${sayAnswer(a.value)}`),
  ];
}
