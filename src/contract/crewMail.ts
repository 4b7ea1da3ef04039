import { z } from 'zod';
import { contract, idParams } from './endpoint.ts';

export const crewMailContract = contract({
  'POST /api/events/:id/crew/mail': {
    summary:
      'Write to the crew of an event; each gets the words with their own shifts. Trying says who would',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    body: z.object({
      subject: z.string().trim().min(1, 'subject-needed').max(150),
      words: z.string().trim().min(1, 'nothing-there').max(5000),
      /** Only those with a shift of these roles; of any, where none is named. */
      roles: z.array(z.string().max(80)).max(100).default([]),
      /** Only answers who would get it, and how it reads. */
      trying: z.boolean().default(false),
    }),
    response: z.object({
      to: z.int(),
      /** Who gets nothing, and why. */
      without: z.array(z.object({ name: z.string(), why: z.string() })),
      /** As the first of them would read it. */
      example: z.object({ name: z.string(), subject: z.string(), body: z.string() }).nullable(),
    }),
  },
});
