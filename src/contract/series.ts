import { z } from 'zod';
import { type PlanField, partOf } from '#core/events/parts.ts';
import { eventStates } from '#core/events/states.ts';
import { horizons } from '#core/series/horizon.ts';
import { settlingTogether, together } from './changes.ts';
import { contract, done, id, idParams, money, wallTime } from './endpoint.ts';
import { consequences } from './plan.ts';

const planField = z.enum(Object.keys(partOf) as [PlanField, ...PlanField[]]);
const recurrence = z.object({
  /** A rule of RFC 5545; null where there are only dates one by one. */
  rule: z.string().max(1000).nullable(),
  /** From where the rule counts. */
  startsLocal: wallTime,
  extra: z.array(z.object({ startsLocal: wallTime, endsLocal: wallTime.nullable() })).max(120),
  skipped: z.array(wallTime).max(400),
});
export type RecurrencePlan = z.infer<typeof recurrence>;
const settings = recurrence.extend({
  horizon: z.int().min(horizons.least).max(horizons.most),
  opens: z.boolean(),
});
export type SeriesSettings = z.infer<typeof settings>;

const seriesDate = z.object({
  id,
  slot: z.string(),
  startsLocal: z.string().nullable(),
  title: z.string(),
  state: z.enum(eventStates),
  /** Whether it is still to come. */
  coming: z.boolean(),
  /** How many have a seat or a shift there. */
  people: z.int(),
  /** What of its plan is its own. */
  own: z.array(planField),
});
export type SeriesDate = z.infer<typeof seriesDate>;

const nextDate = z.object({
  slot: z.string(),
  startsLocal: z.string(),
  /** Later than the rule says, because a clock change removes that time. */
  later: z.boolean(),
  holiday: z.boolean(),
  /** What else takes place there, or is for the same people, at that time. */
  clashes: z.array(z.string()),
  /** The event that was made of it. */
  made: id.nullable(),
});
export type NextDate = z.infer<typeof nextDate>;

/** What becomes of a date whose slot a change takes away. */
const decisionsOfDate = ['move', 'keep', 'call off'] as const;
const change = settings.extend({
  version: z.int().min(1),
  /** The slot from which it holds; the dates before stay as they are. Null for all that are to come. */
  from: wallTime.nullable(),
  decisions: z.array(z.object({ id, become: z.enum(decisionsOfDate) })).max(400),
  /** What people read where a date is called off. */
  words: z.string().max(500).default(''),
  settle: settlingTogether.optional(),
});
export type SeriesChange = z.infer<typeof change>;

const fate = z.object({
  id,
  startsLocal: z.string().nullable(),
  people: z.int(),
  become: z.enum([...decisionsOfDate, 'go']),
  /** Where it moves to. */
  to: z.string().nullable(),
  /** Somebody has to decide it, and has not. */
  open: z.boolean(),
  /** It was given to a unit that whoever asks does not lead: it stays as it is, whatever is decided. */
  ofOthers: z.boolean(),
});
/** What was paid for dates that are called off, and is owed back. */
const owed = z.object({ orders: z.int(), sums: z.array(money) }).nullable();
const changed = together.extend({
  money: owed,
  version: z.int(),
  /** Dates that were made. */
  made: z.array(z.string()),
  /** Dates that do not stay as they are. */
  fates: z.array(fate),
  followed: consequences,
});
export type SeriesChanged = z.infer<typeof changed>;

const carrying = z.object({
  fields: z.array(planField).min(1),
  scope: z.enum(['later', 'all']),
  /** Dates that have a value of their own and take this one all the same. */
  also: z.array(id).max(400).default([]),
  settle: settlingTogether.optional(),
});
export type Carrying = z.output<typeof carrying>;
const carriedTo = together.extend({
  dates: z.array(
    z.object({
      id,
      startsLocal: z.string().nullable(),
      people: z.int(),
      changes: z.array(planField),
      keeps: z.array(planField),
    }),
  ),
  followed: consequences,
});
export type CarriedTo = z.infer<typeof carriedTo>;

const calledOff = together.extend({
  calledOff: z.int(),
  dropped: z.int(),
  followed: consequences,
  money: owed,
});

export type SeriesCalledOff = z.infer<typeof calledOff>;

const lead = ['unit lead'] as const;
export const seriesContract = contract({
  'POST /api/series/preview': {
    summary: 'The next dates of a rule, with holidays and what else takes place then; nothing is kept',
    who: lead,
    body: recurrence.extend({
      /** The event it would begin with, or the series it is of. */
      of: z.object({ kind: z.enum(['event', 'series']), id }),
    }),
    response: z.object({ said: z.string(), next: z.array(nextDate) }),
  },
  'POST /api/series': {
    summary: 'Make an event the first of a series: its dates are made ahead by themselves',
    who: lead,
    body: settings.extend({ eventId: id }),
    response: z.object({ id, made: z.int() }),
  },
  'GET /api/series/:id': {
    summary: 'A series with its dates, past and coming',
    who: lead,
    params: idParams,
    response: settings.extend({
      id,
      /** The event that its dates are made from. */
      patternId: id,
      /** Whether a change of it can still be taken back. */
      settling: z.boolean(),
      version: z.int(),
      title: z.string(),
      zone: z.string(),
      said: z.string(),
      /** Until when its dates are made, and when the next is. */
      nextAt: z.string().nullable(),
      dates: z.array(seriesDate),
    }),
  },
  'PATCH /api/series/:id': {
    summary: 'Change when a series takes place; no date with people on it is moved or dropped undecided',
    who: lead,
    params: idParams,
    body: change,
    response: changed,
  },
  'POST /api/series/:id/what-if': {
    summary: 'What such a change would bring about, date by date; nothing of it is done',
    who: lead,
    ownTransactions: true,
    params: idParams,
    body: change,
    response: changed,
  },
  'POST /api/series/:id/call-off/what-if': {
    summary: 'What calling off all dates still to come would bring about; nothing of it is done',
    who: lead,
    ownTransactions: true,
    params: idParams,
    body: z.object({ from: wallTime.nullable(), settle: settlingTogether.optional() }),
    response: calledOff,
  },
  'POST /api/series/:id/call-off': {
    summary: 'Call off all dates still to come, or those from one on, and make no more',
    who: lead,
    params: idParams,
    body: z.object({
      from: wallTime.nullable(),
      words: z.string().trim().min(3, 'why-for-the-event').max(500),
      settle: settlingTogether.optional(),
    }),
    response: calledOff,
  },
  'GET /api/events/:id/series': {
    summary: 'How a date stands to its series: what of its plan is its own; null where it is of none',
    who: lead,
    params: idParams,
    response: z
      .object({
        id,
        said: z.string(),
        slot: z.string(),
        dates: z.array(seriesDate),
        /** Fields in which it differs, with what it says and what the series says. */
        differs: z.array(
          z.object({
            field: planField,
            here: z.unknown(),
            series: z.unknown(),
            carries: z.boolean(),
            /** Of a list: which rows are its own, which say something else, which the series has besides. */
            rows: z
              .object({
                own: z.array(z.string()),
                changed: z.array(z.string()),
                missing: z.array(z.object({ id: z.string(), name: z.string() })),
              })
              .nullable(),
          }),
        ),
      })
      .nullable(),
  },
  'POST /api/events/:id/series/carry': {
    summary: 'Take fields of a date over into its series: for later dates, or for all that are to come',
    who: lead,
    params: idParams,
    body: carrying,
    response: carriedTo,
  },
  'POST /api/events/:id/series/carry/what-if': {
    summary: 'Which dates that would change, field by field, and which keep their own; nothing is done',
    who: lead,
    ownTransactions: true,
    params: idParams,
    body: carrying,
    response: carriedTo,
  },
  'POST /api/events/:id/series/back': {
    summary: 'Put fields of a date back to what its series says',
    who: lead,
    params: idParams,
    body: z.object({
      fields: z.array(planField).min(1),
      /** Only these rows of one list, by their ids here, or in the series where they are missing here. */
      rows: z.array(z.string().max(60)).max(200).optional(),
    }),
    response: done,
  },
  'POST /api/events/:id/series/leave': {
    summary: 'Take an event out of its series: it stays, and the series no longer has that date',
    who: lead,
    params: idParams,
    response: done,
  },
  'GET /api/events/:id/messages/template': {
    summary:
      'How the lines of an event stand to those of the template it was made from, as far as one sees that; null of none',
    who: 'staff',
    params: idParams,
    response: z
      .object({
        title: z.string(),
        /** Lines of the event alone, lines that say something else there, lines it lacks. */
        own: z.array(z.string()),
        changed: z.array(z.string()),
        missing: z.array(z.object({ id: z.string(), name: z.string() })),
      })
      .nullable(),
  },
  'POST /api/events/:id/messages/template': {
    summary: 'Take lines as the template has them, by their ids here, or there where they are missing here',
    who: 'staff',
    params: idParams,
    body: z.object({ rows: z.array(id).min(1).max(60) }),
    response: done,
  },
});
