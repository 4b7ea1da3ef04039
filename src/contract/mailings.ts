import { z } from 'zod';
import { mailingTopics } from '#core/messages/mailing.ts';
import { contract, id, instant } from './endpoint.ts';

const mailing = z.object({
  /** Who it is for: these contacts, or everybody in a segment. */
  ids: z.array(id).min(1).max(100_000).optional(),
  segmentId: id.optional(),
  topic: z.enum(mailingTopics),
  subject: z.string().trim().max(200),
  body: z.string().trim().max(20_000),
});

/** Who would get what is being written, who would not and why, and how the first of them reads it. */
export const whoGets = z.object({
  planned: z.int(),
  /** By reason, the most frequent first, with some of the names. */
  leftOut: z.array(z.object({ why: z.string(), people: z.int(), names: z.array(z.string()) })),
  sample: z.object({ name: z.string(), subject: z.string(), body: z.string() }).nullable(),
});
export type WhoGets = z.infer<typeof whoGets>;

export const mailingsContract = contract({
  'POST /api/mailings/preview': {
    limit: '6mb',
    summary: 'Who would get a message, who would not and why, and how the first of them gets it',
    who: ['coordinator'],
    ownTransactions: true,
    body: mailing,
    response: whoGets,
  },
  'POST /api/mailings': {
    limit: '6mb',
    summary: 'Write to contacts: a copy for each goes out at once, who gets none is written down with why',
    who: ['coordinator'],
    body: mailing.extend({
      /** What the team calls it. */
      name: z.string().trim().min(1, 'mailing-unnamed').max(120),
      /** How many copies were announced; another number by now sends nothing. */
      expect: z.int(),
    }),
    response: z.object({ id, planned: z.int(), leftOut: z.int() }),
  },
  'GET /api/mailings': {
    summary: 'Messages written to many at once, the newest first',
    who: ['coordinator'],
    response: z.array(
      z.object({
        id,
        name: z.string(),
        topic: z.string(),
        subject: z.string(),
        at: instant,
        by: z.string().nullable(),
        planned: z.int(),
        sent: z.int(),
        failed: z.int(),
        heldBack: z.int(),
      }),
    ),
  },
});
