import { z } from 'zod';
import { contract, done, id, idParams, instant } from './endpoint.ts';

const lead = ['unit lead', 'crew lead'] as const;

/** Places filled, of those that shifts take at least and of those that are wished beyond; each counted by what it matters. */
const terms = z.object({ least: z.number(), wished: z.number(), wishes: z.number() });
const proposal = z.object({ contactId: id, name: z.string(), shiftId: id, wish: z.int() });
const unfilled = z.object({
  shiftId: id,
  missing: z.int(),
  /** It has what it takes at least, and lacks what is wished. */
  wish: z.boolean(),
  why: z.string(),
  /** The smallest single change that would fill it, and whom it frees. */
  cheapest: z.string().nullable(),
  frees: z.array(z.string()),
});
const run = z.object({
  id,
  state: z.enum(['working', 'done', 'failed']),
  askedBy: z.string(),
  askedAt: instant,
  /** Seconds it may take, and has taken. */
  seconds: z.number(),
  took: z.number(),
  /** What there is so far, and what nothing can be better than. */
  so: terms.nullable(),
  bound: terms.nullable(),
  /** Somebody asked it to end with what it has. */
  stopping: z.boolean(),
  answer: z
    .object({
      /** What is left to be put: what was put already, or cannot be any more, is none of it. */
      proposals: z.array(proposal),
      unfilled: z.array(unfilled),
      /** How far it is from what nothing can be better than, of the first term that is not proven; 0 is proven. */
      gap: z.number(),
      /** How many people it could choose among. */
      people: z.int(),
    })
    .nullable(),
});
export type RosterRun = z.output<typeof run>;
const step = z.object({ contactId: id, to: id, from: id.nullable() });

export const fillingContract = contract({
  'GET /api/events/:id/roster': {
    summary:
      'What was proposed last to fill the shifts of an event, or how far it is; and how many can be chosen among',
    who: [...lead],
    params: idParams,
    response: z.object({
      accepted: z.int(),
      open: z.int(),
      run: run.nullable(),
    }),
  },
  'POST /api/events/:id/roster': {
    summary:
      'Work out who could fill the shifts of an event; what is agreed stays, and nobody is put on anything',
    who: [...lead],
    params: idParams,
    body: z.object({ seconds: z.int().min(2).max(120).default(10) }),
    response: z.object({ id }),
  },
  'POST /api/events/:id/roster/stop': {
    summary: 'End working it out, with what there is',
    who: [...lead],
    params: idParams,
    response: done,
  },
  'POST /api/events/:id/roster/accept': {
    summary:
      'Put people on the shifts that were proposed for them; each is told. Who cannot be put any more is answered with why',
    who: [...lead],
    params: idParams,
    body: z.object({
      pairs: z
        .array(z.object({ contactId: id, shiftId: id }))
        .min(1, 'nothing-there')
        .max(2000),
    }),
    response: z.object({
      put: z.int(),
      left: z.array(z.object({ contactId: id, name: z.string(), shiftId: id, why: z.string() })),
    }),
  },
  'DELETE /api/events/:id/roster': {
    summary: 'Set aside what was proposed',
    who: [...lead],
    params: idParams,
    response: done,
  },
  'GET /api/shifts/:id/repair': {
    summary:
      'Who could step in on a shift with the fewest changes to other people; none where nothing fills it',
    who: [...lead],
    params: idParams,
    response: z.object({
      steps: z
        .array(step.extend({ name: z.string(), toWords: z.string(), fromWords: z.string() }))
        .nullable(),
    }),
  },
  'POST /api/shifts/:id/repair': {
    summary: 'Put people where they step in; whoever moves from another shift is told what it was',
    who: [...lead],
    params: idParams,
    body: z.object({ steps: z.array(step).min(1, 'nothing-there').max(8) }),
    response: done,
  },
});
