import type { surveysContract } from '#contract/surveys.ts';
import { resultsOf, type SurveyAnswers } from '#core/surveys/results.ts';
import { followLink, inTransaction } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { readEvent, readSurvey } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { notFound } from '../http/problem.ts';
import { answerSurvey } from './commands.ts';
import { countAsked, readAnswers, readAsk } from './store.ts';

async function asked(tx: Queries, token: string) {
  const askId = await followLink(tx, 'survey', token);
  const ask = askId && (await readAsk(tx, askId));
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

  'POST /api/public/surveys/:token': async ({ tx, app, actor, params, body }) => {
    const { ask, survey, event } = await asked(tx, params.token);
    await inTransaction(app, actor, (w) =>
      answerSurvey(w, ask, survey, event, body.answers as SurveyAnswers),
    );
    app.wake();
    return { done: true };
  },

  'GET /api/events/:id/survey': async (c) => {
    const { tx, params } = c;
    await eventFor(c, params.id, 'wrap-up', 'see');
    const survey = await readSurvey(tx, params.id);
    if (!survey) return { exists: false, anonymous: false, asked: 0, answered: 0, results: [] };
    const answers = await readAnswers(tx, survey.id);
    return {
      exists: true,
      anonymous: survey.anonymous,
      asked: await countAsked(tx, survey.id),
      answered: answers.length,
      results: resultsOf(survey.questions, answers),
    };
  },
};
