import { z } from 'zod';
import { contract, done, id, idParams, instant } from './endpoint.ts';

const words = z.string().trim().min(1, 'reply-needed').max(5000);
const incoming = z.object({
  id,
  /** A reply to a message, or a question from the page of an event. */
  what: z.enum(['reply', 'question']),
  messageId: id.nullable(),
  eventId: id.nullable(),
  event: z.string().nullable(),
  contactId: id.nullable(),
  name: z.string(),
  address: z.string(),
  /** It came from another address than the one we had written to. */
  elsewhere: z.boolean(),
  subject: z.string(),
  words: z.string(),
  /** A machine wrote it, as when somebody is away. */
  automatic: z.boolean(),
  cameAt: instant,
  settledAt: instant.nullable(),
  settledBy: z.string(),
  answer: z.string(),
});
export type Incoming = z.infer<typeof incoming>;

export const incomingContract = contract({
  'GET /api/incoming': {
    summary: 'What people wrote back, and asked on pages; what waits for an answer first',
    who: ['coordinator', 'unit lead', 'crew lead'],
    query: z.object({ offset: z.coerce.number().int().min(0).default(0) }),
    response: z.object({ rows: z.array(incoming), open: z.int(), more: z.boolean() }),
  },
  'POST /api/incoming/:id/answer': {
    summary: 'Answer it by mail; to the address we had written to, or the one that was given on the page',
    who: ['coordinator', 'unit lead', 'crew lead'],
    params: idParams,
    body: z.object({
      words,
      /** The answer it had when this one was written: another by now is said first. */
      seen: z.string().default(''),
    }),
    response: done,
  },
  'PUT /api/incoming/:id': {
    summary: 'Say that it needs no answer, or that it does',
    who: ['coordinator', 'unit lead', 'crew lead'],
    params: idParams,
    body: z.object({ settled: z.boolean() }),
    response: done,
  },
  'POST /api/messages/:id/reply': {
    summary:
      'In the place of whoever got a message, reply to it: what the mail stand-in has for a mail service',
    who: ['coordinator'],
    params: idParams,
    body: z.object({
      words: z.string().max(200_000),
      /** As an answering machine does. */
      automatic: z.boolean().default(false),
    }),
    response: done,
  },
});
