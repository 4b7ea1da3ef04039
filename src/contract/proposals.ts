import { z } from 'zod';
import { code, contract, date, done, id, idParams, text, texts } from './endpoint.ts';
import { lead } from './events.ts';

const timeOfDay = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/u, code('no-such-time'));

export const proposalsContract = contract({
  'GET /api/public/propose': {
    summary: 'What somebody is told who wants to propose an event, and for which units; 404 where nobody may',
    who: 'public',
    response: z.object({ words: texts, units: z.array(z.object({ id, name: z.string() })) }),
  },
  'POST /api/public/propose': {
    summary: 'Propose an event: it becomes a draft with whoever proposed it behind it',
    who: 'public',
    body: z.object({
      title: z.string().trim().min(1, code('name-needed')).max(120),
      about: z.string().trim().min(1, code('about-needed')).max(4000),
      /** The day they have in mind, and from when to when. */
      date: date.nullable().default(null),
      begins: timeOfDay.nullable().default(null),
      ends: timeOfDay.nullable().default(null),
      where: z.string().trim().max(300).default(''),
      people: z.int().min(1).max(100_000).nullable().default(null),
      unitId: id.nullable().default(null),
      name: z.string().trim().min(1, code('name-needed')).max(120),
      email: z.string().trim().max(200),
      phone: z.string().trim().max(40).default(''),
      language: z.enum(['en', 'fr']).default('en'),
    }),
    response: done,
  },
  'GET /api/event-proposals': {
    summary: 'Whether anybody may propose an event, what they are told, and how many wait',
    who: ['coordinator'],
    response: z.object({ open: z.boolean(), words: texts, waiting: z.int() }),
  },
  'PUT /api/event-proposals': {
    summary: 'Say whether anybody may propose an event, and what they are told',
    who: ['coordinator'],
    body: z.object({
      open: z.boolean(),
      words: z.object({ en: text(1000), fr: text(1000).optional() }),
    }),
    response: done,
  },
  'POST /api/events/:id/proposal': {
    summary: 'Take a proposed event up, or decline it with words; whoever proposed it is told',
    who: lead,
    params: idParams,
    body: z.object({ take: z.boolean(), words: text(2000).default('') }),
    response: done,
  },
});
