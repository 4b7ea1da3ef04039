import type { surveysContract } from '#contract/surveys.ts';
import { readTexts } from '#core/words/texts.ts';
import { inTransaction } from '../app/app.ts';
import { eventFor } from '../events/access.ts';
import { fileName } from '../events/fileName.ts';
import { readSurveys, type SurveyRow } from '../events/store.ts';
import { File, type Handlers } from '../http/handle.ts';
import { notFound } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { answerSurvey, askedBy, beginSurvey, pagesOf, takesNone } from './answering.ts';
import { answersCsv } from './answersCsv.ts';
import { resultsOf } from './results.ts';
import { countAsked, hasAnswered } from './store.ts';
import { templateHandlers } from './templates.ts';

type AskingForSurvey = Parameters<typeof eventFor>[0] & { params: { id: string; survey: string } };

/** One survey of an event whose wrap-up somebody sees; throws 404. */
async function surveyFor(c: AskingForSurvey) {
  const event = await eventFor(c, c.params.id, 'wrap-up', 'see');
  const survey = (await readSurveys(c.tx, event.id)).find((s: SurveyRow) => s.id === c.params.survey);
  if (!survey) throw notFound('This survey');
  return { event, survey };
}

export const surveysHandlers: Handlers<typeof surveysContract> = {
  'GET /api/public/surveys/:token': async ({ tx, params, now }) => {
    const of = await askedBy(tx, params.token);
    const { ask, survey, event } = of;
    const { answered, begun } = await hasAnswered(tx, ask.id);
    const state = answered ? 'answered' : takesNone(of, now) ? 'closed' : 'open';
    return {
      title: survey.title,
      intro: survey.intro,
      event: event.publicTitle,
      organization: (await theOrganization(tx)).name,
      anonymous: survey.anonymous,
      state,
      begun,
      pages: state === 'open' ? await pagesOf(tx, of) : [],
    };
  },

  'POST /api/public/surveys/:token': async ({ tx, app, actor, params, body }) => {
    const of = await askedBy(tx, params.token);
    await inTransaction(app, actor, (w) => answerSurvey(w, of, body));
    app.wake();
    return { done: true };
  },

  'POST /api/public/surveys/:token/first': async ({ tx, app, actor, params, body }) => {
    const of = await askedBy(tx, params.token);
    await inTransaction(app, actor, (w) => beginSurvey(w, of, body.answer));
    app.wake();
    return { done: true };
  },

  'GET /api/events/:id/surveys': async (c) => {
    const event = await eventFor(c, c.params.id, 'wrap-up', 'see');
    const rows = [];
    for (const { id, audience, wave, title, anonymous } of await readSurveys(c.tx, event.id))
      rows.push({
        id,
        audience,
        wave,
        title: readTexts(title, 'en'),
        anonymous,
        ...(await countAsked(c.tx, id)),
      });
    return rows;
  },

  'GET /api/events/:id/surveys/:survey': async (c) => {
    const { event, survey } = await surveyFor(c);
    return resultsOf(c, event, survey, c.query);
  },

  'GET /api/events/:id/surveys/:survey/answers.csv': async (c) => {
    const { event, survey } = await surveyFor(c);
    const body = await answersCsv(c.tx, event, survey);
    return new File(fileName(`survey-${survey.audience}`, event, 'csv'), body);
  },

  ...templateHandlers,
};
