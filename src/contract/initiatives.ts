import { z } from 'zod';
import { directions, measureKinds } from '#core/outcomes/measure.ts';
import { contract, currency, date, done, id, idParams, texts, token } from './endpoint.ts';

/** What a goal counts: a measure, gifts in whole units of the currency, or hours of volunteers. */
const goalOf = z.enum(['measure', 'gifts', 'hours']);
const goalBody = z
  .object({
    id,
    of: goalOf,
    measureId: id.nullable(),
    target: z.number('no-number').min(0, 'zero-or-more').max(1e12),
    from: date,
    by: date,
  })
  .refine((g) => g.of !== 'measure' || g.measureId !== null, { path: ['measureId'], error: 'measure-needed' })
  .refine((g) => g.from < g.by, { path: ['by'], error: 'goal-ends-before' });
const dayFigure = z.object({ on: date, value: z.number() });
const figures = z.object({ value: z.number(), low: z.number(), high: z.number(), likely: z.number() });
export const goal = z.object({
  id,
  of: goalOf,
  measureId: id.nullable(),
  /** What is counted, and in what; for gifts the currency. */
  name: texts,
  unit: texts,
  kind: z.enum(measureKinds),
  direction: z.enum(directions),
  decimals: z.int(),
  target: z.number(),
  from: date,
  by: date,
  state: z.enum(['to come', 'under way', 'reached', 'missed']),
  value: z.number().nullable(),
  reachedOn: date.nullable(),
  ahead: figures.nullable(),
  monthly: z.object({ now: z.number(), needed: z.number() }).nullable(),
});
const staff = ['treasurer', 'unit lead', 'crew lead'] as const;

export const initiativesContract = contract({
  'GET /api/initiatives': {
    summary: 'Initiatives with their goals: where each stands, and what it comes to as things go',
    who: staff,
    response: z.array(
      z.object({ id, name: z.string(), about: z.string(), events: z.int(), goals: z.array(goal) }),
    ),
  },
  'GET /api/initiatives/:id': {
    summary: 'An initiative: its goals by day, and what each event brought',
    who: staff,
    params: idParams,
    response: z.object({
      id,
      name: z.string(),
      about: z.string(),
      fundId: id.nullable(),
      version: z.int(),
      today: date,
      currency,
      goals: z.array(goal.extend({ days: z.array(dayFigure) })),
      /** The newest first. `brought` has a figure for each goal, by its id. */
      events: z.array(
        z.object({
          id,
          title: z.string(),
          on: date.nullable(),
          brought: z.record(z.string(), z.number().nullable()),
        }),
      ),
      /** Where its progress is shown for other pages; null where it is not. */
      widget: z.string().nullable(),
    }),
  },
  'PUT /api/initiatives/:id': {
    summary: 'Say what an initiative is about, and what it wants to reach by when',
    who: ['treasurer'],
    params: idParams,
    body: z.object({
      about: z.string().trim().max(2000),
      /** Gifts to it are gifts for the initiative. */
      fundId: id.nullable(),
      goals: z.array(goalBody).max(12),
      version: z.int(),
    }),
    response: done,
  },
  'PUT /api/initiatives/:id/widget': {
    summary: 'Show the progress of an initiative on other web pages, or no longer',
    who: ['treasurer'],
    params: idParams,
    body: z.object({ on: z.boolean() }),
    response: z.object({ widget: z.string().nullable() }),
  },
  'GET /api/public/initiatives/:token': {
    summary: 'The progress of an initiative, for other web pages',
    who: 'public',
    params: token,
    response: z.object({
      name: z.string(),
      organization: z.string(),
      goals: z.array(
        goal.pick({
          of: true,
          name: true,
          unit: true,
          kind: true,
          direction: true,
          decimals: true,
          target: true,
          by: true,
          state: true,
          value: true,
        }),
      ),
    }),
  },
});
