import { z } from 'zod';
import { mailedOfEvent, mailingTopics } from '#core/messages/mailing.ts';
import { contract, done, id, idParams, instant } from './endpoint.ts';
import { saidShape } from './plan.ts';

const mailing = z.object({
  /** Who it is for: these contacts, everybody in a segment, or an event’s people. */
  ids: z.array(id).min(1).max(100_000).optional(),
  segmentId: id.optional(),
  ofEvent: z.object({ eventId: id, who: z.enum(mailedOfEvent) }).optional(),
  /** But not those in any of these segments. */
  without: z.array(id).max(10).default([]),
  /** Nor those who have a seat at an event, or ask for one: it calls the others to it. */
  withoutSeatOf: id.optional(),
  topic: z.enum(mailingTopics),
  said: z.object(saidShape),
});

/** Who would get what is being written, who would not and why, and how the first of them reads it. */
export const whoGets = z.object({
  planned: z.int(),
  /** By reason, the most frequent first, with some of the names. */
  leftOut: z.array(z.object({ why: z.string(), people: z.int(), names: z.array(z.string()) })),
  sample: z
    .object({ name: z.string(), subject: z.string(), body: z.string(), html: z.string().optional() })
    .nullable(),
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
      /** When it goes; at once without it. */
      at: instant.optional(),
      /** How many copies were announced; another number by now sends nothing. */
      expect: z.int(),
    }),
    response: z.object({ id, planned: z.int(), leftOut: z.int() }),
  },
  'GET /api/mailings/:id': {
    summary: 'What a mailing says and what came of it',
    who: ['coordinator'],
    params: idParams,
    response: z.object({
      id,
      name: z.string(),
      said: z.object(saidShape),
      topic: z.string(),
      goesAt: instant,
      stoppedAt: instant.nullable(),
      planned: z.int(),
      sent: z.int(),
      /** Of those it reached: who wrote back; who booked, and who gave, within two weeks; who wants no more since. */
      wroteBack: z.int(),
      booked: z.int(),
      gave: z.int(),
      left: z.int(),
      /** Why some got none, the most frequent first. */
      leftOut: whoGets.shape.leftOut,
      /** Where its links lead, and how often each was followed, by anybody. */
      links: z.array(z.object({ url: z.string(), followed: z.int() })),
    }),
  },
  'POST /api/mailings/:id/stop': {
    summary: 'Let what has not gone out of a mailing stay',
    who: ['coordinator'],
    params: idParams,
    response: done,
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
        /** When it goes or went. */
        goesAt: instant,
        stoppedAt: instant.nullable(),
        by: z.string().nullable(),
        planned: z.int(),
        sent: z.int(),
        failed: z.int(),
        heldBack: z.int(),
      }),
    ),
  },
});
