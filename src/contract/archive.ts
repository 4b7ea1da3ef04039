import { z } from 'zod';
import { conversions } from '#core/archive/conversions.ts';
import { directions, measureKinds } from '#core/outcomes/measure.ts';
import { contract, currency, date, id, sum, texts } from './endpoint.ts';

const estimate = z.object({ value: z.number(), low: z.number(), high: z.number() });
const counted = estimate.extend({ count: z.int() });
const kind = z.object({ kind: id, title: z.string() });
const money = z.object({ seats: sum, extras: sum, gifts: sum, costs: sum });
const outcome = z.object({
  measureId: id,
  name: texts,
  unit: texts,
  kind: z.enum(measureKinds),
  direction: z.enum(directions),
  decimals: z.int(),
  total: z.number(),
});

export const eventFigures = z.object({
  id,
  title: z.string(),
  on: date,
  over: z.boolean(),
  unit: z.string().nullable(),
  kind: id,
  capacity: z.int().nullable(),
  registered: z.int(),
  came: z.int(),
  missed: z.int(),
  withdrawn: z.int(),
  walkedIn: z.int(),
  people: z.int(),
  firstTimers: z.int(),
  fill: z.number().nullable(),
  members: z.int().nullable(),
  /** Null where whoever asks does not see the money of the event. */
  money: money.nullable(),
  currency,
  hours: z.number(),
  recommend: z.object({ would: z.int(), not: z.int(), n: z.int() }).nullable(),
  outcomes: z.array(outcome),
});
export type EventFiguresShown = z.infer<typeof eventFigures>;

const cohort = z.object({
  key: z.string(),
  title: z.string(),
  people: z.int(),
  within: z.array(estimate.extend({ n: z.int() }).nullable()),
  visits: z.number(),
});
const together = ['treasurer', 'crew lead'] as const;

export const archiveContract = contract({
  'GET /api/records/events': {
    summary: 'Events side by side: everything each came to, and what differs most, in words',
    who: ['treasurer', 'unit lead'],
    query: z.object({
      /** Their ids, parted by commas. */
      ids: z
        .string()
        .transform((ids) => [...new Set(ids.split(',').filter(Boolean))])
        .pipe(z.array(id).min(1, 'events-needed').max(60, 'events-at-most-60')),
    }),
    response: z.object({ events: z.array(eventFigures), differs: z.array(z.string()) }),
  },
  'GET /api/records/series': {
    summary: 'What takes place again and again: who came each time',
    who: together,
    response: z.array(
      z.object({
        kind: id,
        title: z.string(),
        unit: z.string().nullable(),
        times: z.array(
          z.object({
            id,
            on: date,
            registered: z.int(),
            came: z.int(),
            firstTimers: z.int(),
            capacity: z.int().nullable(),
          }),
        ),
        /** What is said of how it goes. */
        finding: z.string(),
      }),
    ),
  },
  'GET /api/records/returns': {
    summary:
      'Of those who came the first time, how many came again: by year and by kind of their first event',
    who: together,
    response: z.object({ byYear: z.array(cohort), byKind: z.array(cohort), finding: z.string() }),
  },
  'GET /api/records/paths': {
    summary: 'The ways people go: first event, second, a gift, a shift',
    who: together,
    response: z.object({
      steps: z.object({
        first: z.int(),
        second: counted,
        gave: counted,
        served: counted,
        gaveAfterTwo: counted,
        servedAfterTwo: counted,
      }),
      paths: z.array(
        z.object({
          first: kind,
          second: kind.nullable(),
          people: z.int(),
          gave: estimate,
          served: estimate,
          days: z.number().nullable(),
        }),
      ),
      finding: z.string(),
    }),
  },
  'GET /api/records/audiences': {
    summary:
      'Who comes to several kinds of events, and whether coming leads to giving, helping and coming again',
    who: together,
    response: z.object({
      audiences: z.array(kind.extend({ people: z.int() })),
      shared: z.array(z.object({ a: id, b: id, people: z.int(), times: z.number() })),
      finding: z.string(),
      conversions: z.array(
        z.object({
          what: z.enum(conversions),
          came: counted.extend({ n: z.int() }),
          missed: counted.extend({ n: z.int() }),
          ahead: z
            .object({ by: z.number(), low: z.number(), high: z.number(), p: z.number(), events: z.int() })
            .nullable(),
          said: z.string(),
        }),
      ),
    }),
  },
  'GET /api/records/drifting': {
    summary: 'Those who drift away by their own rhythm, each with why',
    who: ['crew lead'],
    response: z.object({
      all: z.int(),
      /** How many of all can be written to. */
      reachable: z.int(),
      people: z.array(
        z.object({
          id,
          name: z.string(),
          times: z.int(),
          lastOn: date,
          lastEvent: z.string(),
          why: z.string(),
          /** Whether nothing is sent to them, and so cannot be. */
          quiet: z.boolean(),
        }),
      ),
    }),
  },
  'GET /api/records/timing': {
    summary: 'How long before people book and give up, and which dates went well',
    who: together,
    response: z.object({
      timing: z.array(
        z.object({
          kind: id.nullable(),
          title: z.string().nullable(),
          events: z.int(),
          booked: z.int(),
          withdrawn: z.int(),
          curve: z.array(z.object({ before: z.int(), booked: z.number(), withdrawn: z.number() })),
          half: z.int().nullable(),
          nine: z.int().nullable(),
        }),
      ),
      dates: z.array(
        z.object({
          of: z.enum(['weekday', 'month', 'hour']),
          key: z.int(),
          name: z.string(),
          events: z.int(),
          came: z.number(),
          turnUp: z.number(),
        }),
      ),
      findings: z.object({ timing: z.string(), dates: z.string() }),
    }),
  },
  'GET /api/records/units': {
    summary: 'What the events of each unit came to, year by year',
    who: ['treasurer', 'unit lead'],
    response: z.array(
      z.object({
        unitId: id.nullable(),
        unit: z.string(),
        year: z.string(),
        events: z.int(),
        registered: z.int(),
        came: z.int(),
        missed: z.int(),
        people: z.int(),
        firstTimers: z.int(),
        hours: z.number(),
        money: money.nullable(),
        currency,
        outcomes: z.array(outcome),
      }),
    ),
  },
});
