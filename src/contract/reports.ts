import { z } from 'zod';
import { sections } from '#core/reports/report.ts';
import { eventFigures } from './archive.ts';
import { contract, currency, date, done, id, idParams, instant, sum, texts } from './endpoint.ts';
import { goal } from './initiatives.ts';

const title = z.string().trim().min(1, 'name-needed').max(160);
const written = z.partialRecord(z.enum(sections), z.string().trim().max(6000));
const totals = z.object({
  events: z.int(),
  calledOff: z.int(),
  registered: z.int(),
  came: z.int(),
  missed: z.int(),
  firstTimers: z.int(),
  people: z.int(),
  hours: z.number(),
  money: z.object({ seats: sum, extras: sum, gifts: sum, costs: sum }),
  recommend: z.object({ would: z.int(), not: z.int(), n: z.int() }),
});
const summary = z.object({
  id,
  title: z.string(),
  /** What it is about, in words. */
  about: z.string(),
  madeBy: z.string(),
  changedAt: instant,
});

/** Who keeps the books and the coordinator write to the board. */
const who = ['treasurer'] as const;

export const reportsContract = contract({
  'GET /api/reports': { summary: 'Reports to the board, the newest first', who, response: z.array(summary) },
  'POST /api/reports': {
    summary:
      'Begin a report: of one event, or of all between two days, of a unit or of the whole organization',
    who,
    body: z
      .object({
        title,
        eventId: id.nullable().default(null),
        from: date.nullable().default(null),
        until: date.nullable().default(null),
        unitId: id.nullable().default(null),
      })
      .refine((b) => b.eventId !== null || (b.from !== null && b.until !== null), {
        path: ['from'],
        error: 'report-about-needed',
      })
      .refine((b) => b.eventId !== null || b.from === null || b.until === null || b.from <= b.until, {
        path: ['until'],
        error: 'goal-ends-before',
      }),
    response: z.object({ id }),
  },
  'GET /api/reports/:id': {
    summary: 'A report: its words, written or said from the figures, and the figures as they are now',
    who,
    params: idParams,
    response: summary.extend({
      version: z.int(),
      /** What is printed beside each section: written by somebody, or said from the figures. */
      words: z.record(z.enum(sections), z.string()),
      /** The sections that somebody wrote. */
      written: z.array(z.enum(sections)),
      from: date,
      until: date,
      currency,
      now: totals,
      before: totals.nullable(),
      /** What the time it is about is called, and the time before. */
      nowSaid: z.string(),
      beforeSaid: z.string(),
      outcomes: z.array(
        z.object({
          measureId: id,
          name: texts,
          unit: texts,
          kind: eventFigures.shape.outcomes.element.shape.kind,
          direction: eventFigures.shape.outcomes.element.shape.direction,
          decimals: z.int(),
          planned: z.number().nullable(),
          total: z.number(),
          before: z.number().nullable(),
        }),
      ),
      initiatives: z.array(z.object({ name: z.string(), goals: z.array(goal) })),
      events: z.array(eventFigures),
    }),
  },
  'PUT /api/reports/:id': {
    summary:
      'Write a report: its title and what its sections say; a section left empty is said from the figures',
    who,
    params: idParams,
    body: z.object({ title, words: written, version: z.int() }),
    response: done,
  },
  'DELETE /api/reports/:id': { summary: 'Throw a report away', who, params: idParams, response: done },
  'GET /api/reports/:id/report.pdf': {
    summary: 'The report as PDF, to print and to pass on',
    who,
    params: idParams,
    response: { file: 'application/pdf' },
  },
});
