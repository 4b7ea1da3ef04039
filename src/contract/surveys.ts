import { z } from 'zod';
import { groupings } from '#core/surveys/grouping.ts';
import { surveyAudiences } from '#core/surveys/survey.ts';
import { contract, done, id, idParams, instant, texts, token } from './endpoint.ts';
import { surveyPlan, surveyQuestion } from './surveyPlan.ts';

const answer = z.union([
  z.string().max(4000, 'answer-too-long'),
  z.number(),
  z.array(z.string().max(200)).max(30),
]);
const session = z.object({ id, title: texts }).nullable();
const estimate = z.object({ value: z.number(), low: z.number(), high: z.number() });

/** A template of a survey: what it asks, without whose event it is. */
const surveyTemplate = z.object({
  name: z.string().trim().min(1, 'name-needed').max(80),
  survey: surveyPlan.omit({ id: true }),
});
export type SurveyTemplate = z.infer<typeof surveyTemplate>;

const result = z.object({
  key: z.string(),
  question: surveyQuestion,
  session,
  /** It was answered, and is not asked any more. */
  retired: z.boolean(),
  /** How many sessions are beside each other, where it is told of all of them. */
  sessions: z.int(),
  answered: z.int(),
  choices: z.array(z.object({ id: z.string(), label: z.string(), count: z.int(), share: estimate })),
  mean: estimate.extend({ deviation: z.number(), n: z.number() }).nullable(),
  recommend: z.object({ score: estimate, would: z.int(), between: z.int(), not: z.int() }).nullable(),
  places: z.array(
    z.object({
      id: z.string(),
      label: z.string(),
      mean: estimate.extend({ deviation: z.number(), n: z.number() }),
      first: z.int(),
    }),
  ),
  span: z
    .object({ least: z.string(), middle: z.string(), most: z.string(), sum: z.number().nullable() })
    .nullable(),
  texts: z.array(z.string()),
  terms: z.array(z.object({ term: z.string(), count: z.int(), example: z.string(), of: z.array(z.int()) })),
  /** What it says, in one sentence. */
  sentence: z.string(),
  groups: z.array(
    z.object({
      name: z.string(),
      n: z.int(),
      figure: z.number().nullable(),
      choices: z.array(z.object({ id: z.string(), count: z.int() })),
      sentence: z.string(),
    }),
  ),
  /** The same question at an earlier event. */
  earlier: z
    .object({
      n: z.int(),
      figure: z.number().nullable(),
      choices: z.array(z.object({ id: z.string(), count: z.int() })),
      /** How it was worded then, where it was otherwise. */
      was: z.string().nullable(),
      sentence: z.string(),
    })
    .nullable(),
  /** How it was worded before, while some answered. */
  reworded: z.array(z.object({ was: z.string(), at: instant, answered: z.int() })),
});

export const surveysContract = contract({
  'GET /api/public/surveys/:token': {
    summary: 'A survey as somebody asked sees it',
    who: 'public',
    params: token,
    response: z.object({
      title: texts,
      intro: texts,
      event: z.string(),
      organization: z.string(),
      anonymous: z.boolean(),
      state: z.enum(['open', 'answered', 'closed']),
      /** Whether the first question was answered already, from the mail. */
      begun: z.boolean(),
      pages: z.array(
        z.object({
          id: z.string(),
          title: texts,
          session,
          asked: z.array(z.object({ key: z.string(), question: surveyQuestion, session })),
        }),
      ),
    }),
  },
  'POST /api/public/surveys/:token': {
    summary: 'Answer a survey once',
    who: 'public',
    // No answer is kept for a repeated request: it would join a person to what they said.
    ownTransactions: true,
    params: token,
    body: z.object({
      answers: z.record(z.string().max(120), answer),
      /** Whether one may come back to them about what they said, or, of an anonymous survey, at all. */
      mayFollow: z.boolean().default(false),
    }),
    response: done,
  },
  'POST /api/public/surveys/:token/first': {
    summary: 'Keep the answer that was tapped in the mail, until the others come',
    who: 'public',
    ownTransactions: true,
    params: token,
    body: z.object({ answer: z.string().max(200) }),
    response: done,
  },
  'GET /api/events/:id/surveys': {
    summary: 'The surveys of an event, and how many answered each',
    who: 'staff',
    params: idParams,
    response: z.array(
      z.object({
        id,
        audience: z.enum(surveyAudiences),
        wave: z.int(),
        title: z.string(),
        anonymous: z.boolean(),
        asked: z.int(),
        answered: z.int(),
      }),
    ),
  },
  'GET /api/events/:id/surveys/:survey': {
    summary:
      'What was answered to a survey: figures with their bounds, groups and earlier years beside each other',
    who: 'staff',
    params: idParams.extend({ survey: id }),
    query: z.object({
      /** By what answers are told apart. */
      by: z.enum(groupings).default('nothing'),
      /** By what answers are weighted, so that those who answered are made up as those who came. */
      weigh: z.enum(groupings).default('nothing'),
      /** The earlier event it is set beside; the last one where nothing is said. */
      beside: z.uuid().optional(),
    }),
    response: z.object({
      id,
      anonymous: z.boolean(),
      asked: z.int(),
      answered: z.int(),
      rate: estimate,
      /** What is said of how many answered. */
      sentence: z.string(),
      closesAt: instant.nullable(),
      closed: z.boolean(),
      /** By what answers can be told apart. */
      groupings: z.array(z.enum(groupings)),
      /** Why answers are not told apart now; empty where they are, or nobody asked for it. */
      ungrouped: z.string(),
      /** What weighting did. */
      weighted: z.string(),
      results: z.array(result),
      earlier: z.array(z.object({ eventId: id, title: z.string(), startsAt: instant.nullable() })),
      beside: id.nullable(),
      /** What was asked then and is not now. */
      gone: z.array(z.string()),
      /** Questions that may be the same ones, for somebody to say. */
      perhaps: z.array(
        z.object({ now: z.string(), prompt: z.string(), was: z.string(), wasPrompt: z.string() }),
      ),
      tasks: z.object({ open: z.int(), done: z.int() }),
    }),
  },
  'GET /api/events/:id/surveys/:survey/answers.csv': {
    summary:
      'What was answered as CSV: a row for each who answered, or, of an anonymous survey, for each answer there is to a question',
    who: ['coordinator', 'unit lead'],
    params: idParams.extend({ survey: id }),
    response: { file: 'text/csv' },
  },
  'GET /api/survey-templates': {
    summary: 'Surveys that are asked again and again: those kept by name, and some to begin with',
    who: ['unit lead'],
    response: z.array(surveyTemplate.extend({ id: id.nullable() })),
  },
  'POST /api/survey-templates': {
    summary: 'Keep a survey by name; one of the same name is replaced where that is said',
    who: ['unit lead'],
    body: surveyTemplate.extend({ replace: z.boolean().default(false) }),
    response: z.object({ id }),
  },
  'DELETE /api/survey-templates/:id': {
    summary: 'Take a kept survey away; events that use it keep theirs',
    who: ['unit lead'],
    params: idParams,
    response: done,
  },
});
