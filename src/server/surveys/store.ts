import type { SurveyAnswers } from '#core/surveys/results.ts';
import { first, type Queries } from '../db/database.ts';

/** Somebody who was asked to answer a survey. */
export interface Ask {
  id: string;
  contactId: string;
  answered: boolean;
  eventId: string;
}

export const readAsk = (tx: Queries, id: string): Promise<Ask | null> =>
  first<Ask>(
    tx,
    'select k.id, k.contact_id, k.answered, v.event_id from survey_asks k join surveys v on v.id = k.survey_id where k.id = $1 and v.removed_at is null',
    [id],
  );

/** Whether somebody answered, asked of the row as it is now: the same answer may come twice at once. */
export const hasAnswered = async (tx: Queries, askId: string): Promise<boolean> =>
  (
    await first<{ answered: boolean }>(tx, 'select answered from survey_asks where id = $1 for update', [
      askId,
    ])
  )?.answered ?? false;

/**
 * Keeps an anonymous answer so that nothing leads to the person: no contact, no time but the month, and all asks and
 * answers of the survey are written anew in an order of their own, so that their place in the tables tells nothing.
 */
export async function keepUnknownAnswer(
  tx: Queries,
  askId: string,
  surveyId: string,
  answers: SurveyAnswers,
  today: string,
): Promise<void> {
  await tx.query('update survey_asks set answered = answered or id = $2 where survey_id = $1', [
    surveyId,
    askId,
  ]);
  await tx.query(
    `with before as (delete from survey_responses where survey_id = $1 and contact_id is null returning answers, answered_on)
     insert into survey_responses (id, survey_id, answers, answered_on)
     select gen_random_uuid(), $1, answers, answered_on
     from (select answers, answered_on from before union all select $2::jsonb, date_trunc('month', $3::date)::date) all_of_them
     order by random()`,
    [surveyId, JSON.stringify(answers), today],
  );
}

/** Every answer to a survey, in no order that tells anything. */
export const readAnswers = async (tx: Queries, surveyId: string): Promise<SurveyAnswers[]> =>
  (
    await tx.query<{ answers: SurveyAnswers }>(
      'select answers from survey_responses where survey_id = $1 order by id',
      [surveyId],
    )
  ).map((r) => r.answers);

export const countAsked = async (tx: Queries, surveyId: string): Promise<number> =>
  (await first<{ n: number }>(tx, 'select count(*)::int as n from survey_asks where survey_id = $1', [
    surveyId,
  ]))!.n;
