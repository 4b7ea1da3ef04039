import { z } from 'zod';
import { contract, done, id, idParams } from './endpoint.ts';
import { question } from './plan.ts';

const questionSet = z.object({ id, name: z.string(), questions: z.array(question) });
export type QuestionSet = z.infer<typeof questionSet>;

export const questionSetsContract = contract({
  'GET /api/question-sets': {
    summary: 'Questions that are asked again and again, kept by name',
    who: ['unit lead'],
    response: z.array(questionSet),
  },
  'POST /api/question-sets': {
    summary: 'Keep questions as a set; one of the same name is replaced where that is said',
    who: ['unit lead'],
    body: z.object({
      name: z.string().trim().min(1, 'name-needed').max(80),
      questions: z.array(question).min(1).max(60),
      replace: z.boolean().default(false),
    }),
    response: z.object({ id }),
  },
  'DELETE /api/question-sets/:id': {
    summary: 'Take a set away; events that use its questions keep them',
    who: ['unit lead'],
    params: idParams,
    response: done,
  },
});
