import { z } from 'zod';
import { amount, code, contract, done, id, idParams, instant, token } from './endpoint.ts';

const decisionBody = z.object({
  orderIds: z.array(id).min(1, 'choose-somebody').max(200),
  decision: z.enum(['accept', 'decline', 'ask']),
  /** What is asked; or what is said with a no. */
  words: z.string().max(1000).default(''),
});
const decided = z.object({
  /** How many parties have their seats, have to pay first, wait, are declined, or were asked something. */
  confirmed: z.int(),
  held: z.int(),
  waitlisted: z.int(),
  declined: z.int(),
  asked: z.int(),
  /** Who had been decided already, or took it back, by name. */
  left: z.array(z.string()),
  /** Who gets no message, by name, with why. */
  untold: z.array(z.object({ name: z.string(), why: z.string() })),
});
const queue = z.object({
  questions: z.array(z.object({ id, prompt: z.string() })),
  parties: z.array(
    z.object({
      orderId: id,
      contactId: id.nullable(),
      name: z.string(),
      email: z.string().nullable(),
      since: instant,
      seats: z.int(),
      offers: z.string(),
      due: amount,
      /** Whether there is room for them now; else why not. */
      fits: z.string(),
      /** What they answered, by question; of several people one after the other. */
      answers: z.record(z.string(), z.string()),
      people: z.array(z.string()),
      asked: z.array(z.object({ words: z.string(), by: z.string(), answer: z.string().nullable() })),
    }),
  ),
});
export type Queue = z.infer<typeof queue>;

/** Where the organizer accepts people one by one. */
export const acceptingContract = contract({
  'GET /api/events/:id/queue': {
    summary: 'Who asked for seats and waits for the organizer, with what they answered side by side',
    who: ['unit lead'],
    params: idParams,
    response: queue,
  },
  'POST /api/events/:id/decisions': {
    summary: 'Accept or decline people who asked, or ask them something back; several at once',
    who: ['unit lead'],
    params: idParams,
    body: decisionBody,
    response: decided,
  },
  'POST /api/events/:id/decisions/what-if': {
    summary: 'What a decision would bring about for whom; nothing of it is done',
    who: ['unit lead'],
    ownTransactions: true,
    params: idParams,
    body: decisionBody,
    response: decided,
  },
  'POST /api/public/orders/:token/answer': {
    summary: 'Answer what the organizer asked back',
    who: 'public',
    params: token,
    body: z.object({ questionId: id, words: z.string().trim().min(1, code('words-needed')).max(2000) }),
    response: done,
  },
});
