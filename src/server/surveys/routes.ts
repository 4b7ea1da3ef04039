import type { surveysContract } from '#contract/surveys.ts';
import { problemsWithAnswers, resultsOf, type SurveyAnswers } from '#core/surveys/results.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { readEvent, readSurvey } from '../events/store.ts';
import { followLink } from '../http/app.ts';
import type { Handlers } from '../http/handle.ts';
import { conflict, invalid, notFound } from '../http/problem.ts';

async function asked(tx: Queries, token: string) {
  const askId = await followLink(tx, 'survey', token);
  const ask = askId
    ? await first<{ id: string; contactId: string; answered: boolean; eventId: string }>(
        tx,
        'select k.id, k.contact_id, k.answered, v.event_id from survey_asks k join surveys v on v.id = k.survey_id where k.id = $1',
        [askId],
      )
    : null;
  if (!ask) throw notFound('This survey');
  return { ask, survey: (await readSurvey(tx, ask.eventId))!, event: await readEvent(tx, ask.eventId) };
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
    if (ask.answered) throw conflict('answered', 'This survey was answered already. Thank you.');
    const problems = problemsWithAnswers(survey.questions, body.answers as SurveyAnswers);
    if (problems.length) throw invalid(problems);
    await update(tx, 'survey_asks', ask.id, { answered: true });
    await insert(tx, 'survey_responses', {
      // An anonymous answer gets an id without a time in it, and nothing that leads to the person.
      id: survey.anonymous ? app.ids.unordered() : app.ids.id(),
      surveyId: survey.id,
      contactId: survey.anonymous ? null : ask.contactId,
      answers: body.answers,
      answeredOn: dateOf(now, event.zone),
    });
    c.afterwards(() => app.announcer.announce(`event ${event.id}`));
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
