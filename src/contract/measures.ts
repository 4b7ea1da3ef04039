import { z } from 'zod';
import { directions, entrants, measureKinds } from '#core/outcomes/measure.ts';
import { contract, done, id, idParams, texts } from './endpoint.ts';

const said = (most: number) =>
  z.object({ en: z.string().trim().max(most), fr: z.string().trim().max(most).optional() });
const measureBody = z.object({
  name: said(80).refine((name) => name.en !== '', { path: ['en'], error: 'name-needed' }),
  unit: said(30),
  kind: z.enum(measureKinds),
  direction: z.enum(directions),
  decimals: z.int('not-whole').min(0, 'zero-or-more').max(3, 'at-most-three'),
  most: z.number('no-number').positive('at-least-one').max(1e9).nullable(),
  enteredBy: z.enum(entrants),
  lookedAt: z.boolean(),
});
/** A measure as it is read. */
export const measure = z.object({
  id,
  name: texts,
  unit: texts,
  kind: z.enum(measureKinds),
  direction: z.enum(directions),
  decimals: z.int(),
  most: z.number().nullable(),
  enteredBy: z.enum(entrants),
  lookedAt: z.boolean(),
});

export const measuresContract = contract({
  'GET /api/measures': {
    summary: 'What the organization counts, with how often it was counted',
    who: 'staff',
    response: z.array(measure.extend({ tallies: z.int(), events: z.int(), closed: z.boolean() })),
  },
  'POST /api/measures': {
    summary: 'Count something from now on',
    who: [],
    body: measureBody,
    response: z.object({ id }),
  },
  'PUT /api/measures/:id': {
    summary: 'Change a measure. What it counts and in which unit stays once something was counted',
    who: [],
    params: idParams,
    body: measureBody,
    response: done,
  },
  'PUT /api/measures/:id/closed': {
    summary: 'Offer a measure for events no more, or again; what was counted stays',
    who: [],
    params: idParams,
    body: z.object({ closed: z.boolean() }),
    response: done,
  },
});
