import type { surveysContract } from '#contract/surveys.ts';
import { problemsWithAnswers, resultsOf, type SurveyAnswers } from '#core/surveys/results.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { followLink, inTransaction, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { readEvent, readSurvey } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { invalid, notFound, refused } from '../http/problem.ts';

async function asked(tx: Queries, token: string) {
  const askId = await followLink(tx, 'survey', token);
  const ask = askId
    ? await first<{ id: string; contactId: string; answered: boolean; eventId: string }>(
        tx,
        'select k.id, k.contact_id, k.answered, v.event_id from survey_asks k join surveys v on v.id = k.survey_id where k.id = $1 and v.removed_at is null',
        [askId],
      )
    : null;
  if (!ask) throw notFound('This survey');
  return { ask, survey: (await readSurvey(tx, ask.eventId))!, event: await readEvent(tx, ask.eventId) };
}

interface Ask {
  id: string;
  contactId: string;
}

async function answerByName(w: Work, ask: Ask, surveyId: string, answers: object, today: string) {
  await update(w.tx, 'survey_asks', ask.id, { answered: true });
  await insert(w.tx, 'survey_responses', {
    id: w.app.ids.id(),
    surveyId,
    contactId: ask.contactId,
    answers,
    answeredOn: today,
  });
}

/**
 * Keeps an anonymous answer so that nothing leads to the person: no contact, no time but the month, and all asks and
 * answers of the survey are written anew in an order of their own, so that their place in the tables tells nothing.
 */
async function answerUnknown(w: Work, ask: Ask, surveyId: string, answers: object, today: string) {
  await w.tx.query('update survey_asks set answered = answered or id = $2 where survey_id = $1', [
    surveyId,
    ask.id,
  ]);
  await w.tx.query(
    `with before as (delete from survey_responses where survey_id = $1 and contact_id is null returning answers, answered_on)
     insert into survey_responses (id, survey_id, answers, answered_on)
     select gen_random_uuid(), $1, answers, answered_on
     from (select answers, answered_on from before union all select $2::jsonb, date_trunc('month', $3::date)::date) all_of_them
     order by random()`,
    [surveyId, JSON.stringify(answers), today],
  );
}

export const surveysHandlers: Handlers<typeof surveysContract> = {
  'GET /api/public/surveys/:token': async ({ tx, params }) => {
    const { ask, survey, event } = await asked(tx, params.token);
    return {
      title: survey.title,
      event: event.publicTitle,
      anonymous: survey.anonymous,
      answered: ask.answered,
      questions: survey.questions,
    };
  },

  'POST /api/public/surveys/:token': async (c) => {
    const { tx, app, params, body, now } = c;
    const { ask, survey, event } = await asked(tx, params.token);
    const problems = problemsWithAnswers(survey.questions, body.answers as SurveyAnswers);
    if (problems.length) throw invalid(problems);
    await inTransaction(app, c.actor, async (w) => {
      // Asked of the row as it is now: the same answer may come twice at once.
      const again = await first<{ answered: boolean }>(
        w.tx,
        'select answered from survey_asks where id = $1 for update',
        [ask.id],
      );
      if (again?.answered) throw refused('survey-answered');
      const today = dateOf(now, event.zone);
      await (survey.anonymous ? answerUnknown : answerByName)(w, ask, survey.id, body.answers, today);
      await record(w, 'survey answered', { eventId: event.id });
    });
    app.wake();
    return { done: true };
  },

  'GET /api/events/:id/survey': async (c) => {
    const { tx, params } = c;
    await eventFor(c, params.id, 'wrap-up', 'see');
    const survey = await readSurvey(tx, params.id);
    if (!survey) return { exists: false, anonymous: false, asked: 0, answered: 0, results: [] };
    const responses = await tx.query<{ answers: SurveyAnswers }>(
      'select answers from survey_responses where survey_id = $1 order by id',
      [survey.id],
    );
    const asks = await first<{ n: number }>(
      tx,
      'select count(*)::int as n from survey_asks where survey_id = $1',
      [survey.id],
    );
    return {
      exists: true,
      anonymous: survey.anonymous,
      asked: asks?.n ?? 0,
      answered: responses.length,
      results: resultsOf(
        survey.questions,
        responses.map((r) => r.answers),
      ),
    };
  },
};
