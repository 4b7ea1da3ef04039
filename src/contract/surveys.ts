import { z } from 'zod';
import { contract, idParams, texts, token } from './endpoint.ts';
import { surveyQuestion } from './plan.ts';

export const surveysContract = contract({
  'GET /api/public/surveys/:token': {
    summary: 'A survey as somebody asked sees it',
    who: 'public',
    params: token,
    response: z.object({
      title: texts,
      event: z.string(),
      anonymous: z.boolean(),
      answered: z.boolean(),
      questions: z.array(surveyQuestion),
    }),
  },
  'POST /api/public/surveys/:token': {
    summary: 'Answer a survey once',
    who: 'public',
    // No answer is kept for a repeated request: it would join a person to what they said.
    ownTransactions: true,
    params: token,
    body: z.object({ answers: z.record(z.string(), z.union([z.string().max(4000), z.number()])) }),
    response: z.object({ done: z.literal(true) }),
  },
  'GET /api/events/:id/survey': {
    summary: 'The results of a survey: counts, means and words',
    who: 'staff',
    params: idParams,
    response: z.object({
      exists: z.boolean(),
      anonymous: z.boolean(),
      asked: z.int(),
      answered: z.int(),
      results: z.array(
        z.object({
          question: surveyQuestion,
          answered: z.int(),
          counts: z.array(z.object({ label: z.string(), count: z.int() })),
          mean: z.number().nullable(),
          texts: z.array(z.string()),
        }),
      ),
    }),
  },
});
