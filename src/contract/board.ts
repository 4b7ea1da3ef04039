import { z } from 'zod';
import { questionStates, shownRules } from '#core/messages/board.ts';
import { contract, done, id, idParams, instant, strangersName } from './endpoint.ts';

const shown = z.enum(shownRules);
const words = z.string().trim().min(1, 'nothing-written').max(2000);

const boardQuestion = z.object({
  id,
  name: z.string(),
  email: z.string(),
  words: z.string(),
  askedAt: instant,
  state: z.enum(questionStates),
  answer: z.string(),
  answeredAt: instant.nullable(),
  answeredBy: z.string(),
});
export type BoardQuestion = z.infer<typeof boardQuestion>;

export const boardContract = contract({
  'GET /api/public/events/:slug/board': {
    summary:
      'The questions about an event that are shown, with their answers, the newest first; none where it has no board',
    who: 'public',
    params: z.object({ slug: z.string().max(120) }),
    response: z.object({
      on: z.boolean(),
      shown,
      questions: z.array(
        z.object({
          id,
          /** The given name, and the first letter of the rest. */
          name: z.string(),
          words: z.string(),
          askedAt: instant,
          answer: z.string(),
          answeredAt: instant.nullable(),
        }),
      ),
    }),
  },
  'POST /api/public/events/:slug/board': {
    summary: 'Ask something on the board of an event; the answer comes by email too',
    who: 'public',
    params: z.object({ slug: z.string().max(120) }),
    body: z.object({
      name: strangersName,
      email: z.string().trim().max(254),
      words,
      /** Hear of the event, and of the other answers, by email too: the address is asked first. */
      follows: z.boolean().default(false),
      language: z.enum(['en', 'fr']).default('en'),
    }),
    response: done,
  },
  'GET /api/events/:id/board': {
    summary: 'The board of an event as the team sees it: the questions that wait first',
    who: 'staff',
    params: idParams,
    response: z.object({
      on: z.boolean(),
      shown,
      answersBy: id.nullable(),
      team: z.array(z.object({ id, name: z.string() })),
      questions: z.array(boardQuestion),
    }),
  },
  'PUT /api/events/:id/board': {
    summary: 'Give an event a board, or take it away; what was asked stays',
    who: 'staff',
    params: idParams,
    body: z.object({ on: z.boolean(), shown, answersBy: id.nullable().default(null) }),
    response: done,
  },
  'POST /api/events/:id/board/:question': {
    summary:
      'Answer a question, show it or put it away; an answer is mailed to whoever asked, and to those who want the others',
    who: 'staff',
    params: z.object({ id, question: id }),
    body: z.object({
      answer: z.string().trim().max(4000).optional(),
      state: z.enum(['shown', 'hidden']).optional(),
    }),
    response: done,
  },
});
