import { z } from 'zod';
import { hourKeys } from '#core/crew/hourTotals.ts';
import { roundedTo, roundedWays } from '#core/crew/serving.ts';
import { assignmentStates } from '#core/crew/states.ts';
import { amount, contract, currency, date, done, id, idParams, instant } from './endpoint.ts';
import { signing, waiverText } from './waivers.ts';

const lead = ['unit lead', 'crew lead'] as const;
const doors = ['door', 'unit lead', 'crew lead'] as const;

/** Somebody of the crew, as the doors have them. */
const present = z.object({
  assignmentId: id,
  name: z.string(),
  role: z.string(),
  shift: z.string(),
  place: z.string(),
  startsLocal: z.string(),
  endsLocal: z.string(),
  startsAt: instant,
  endsAt: instant,
  state: z.enum(assignmentStates),
  inAt: instant.nullable(),
  outAt: instant.nullable(),
  /** What is still to be signed by them, or by a guardian for them. */
  toSign: z.array(id),
  relation: z.enum(['self', 'guardian']),
});
export type CrewPresent = z.infer<typeof present>;

/** How served hours are counted. */
export const countingRules = z.object({
  /** Minutes after which whoever is not there counts as missing. */
  lateMinutes: z.int().min(1).max(120),
  roundedTo: z.literal(roundedTo),
  rounded: z.enum(roundedWays),
  /** What an hour is worth, in minor units of the organization’s currency; null: nobody said. */
  hourValue: z.int().min(1, 'at-least-one').max(100_000).nullable(),
});

const between = z.object({
  from: date,
  until: date,
  by: z.enum(hourKeys).default('person'),
});

export const servingContract = contract({
  'GET /api/events/:id/doors/crew': {
    summary: 'The crew of a day and a half around now, as they are ticked off at the doors',
    who: [...doors],
    params: idParams,
    response: z.object({
      now: instant,
      lateMinutes: z.int(),
      rows: z.array(present),
      /** What the crew signs. */
      waivers: z.array(waiverText),
    }),
  },
  'POST /api/assignments/:id/signatures': {
    summary: 'Somebody of the crew signs at the doors, on a device of the staff',
    who: [...doors],
    params: idParams,
    body: signing,
    response: done,
  },
  'POST /api/assignments/:id/presence': {
    summary: 'Tick off that somebody of the crew came or left, or take it back; hours follow from it',
    who: [...doors],
    params: idParams,
    body: z.object({
      to: z.enum(['in', 'out', 'expected']),
      /** When it was, where it is told later. */
      at: instant.optional(),
    }),
    response: z.object({
      state: z.enum(assignmentStates),
      inAt: instant.nullable(),
      outAt: instant.nullable(),
      hours: z.number().nullable(),
    }),
  },
  'POST /api/assignments/:id/hours': {
    summary: 'Put served hours right; what they were, who changed them and why stays written',
    who: [...lead],
    params: idParams,
    body: z.object({
      hours: z.number().min(0).max(48),
      why: z.string().trim().min(3, 'reason-needed').max(300),
    }),
    response: done,
  },
  'GET /api/hours': {
    summary: 'Hours that volunteers served between two days, by person, event or role, with their years',
    who: ['crew lead'],
    query: between,
    response: z.object({
      rows: z.array(
        z.object({
          key: z.string(),
          label: z.string(),
          people: z.int(),
          shifts: z.int(),
          hours: z.number(),
          years: z.record(z.string(), z.number()),
        }),
      ),
      years: z.array(z.string()),
      people: z.int(),
      shifts: z.int(),
      hours: z.number(),
      value: amount.nullable(),
      hourValue: amount.nullable(),
      currency,
    }),
  },
  'GET /api/hours.csv': {
    summary: 'The same as a table',
    who: ['crew lead'],
    query: between,
    response: { file: 'text/csv' },
  },
  'GET /api/contacts/:id/hours.pdf': {
    summary: 'A letter that says what somebody served between two days',
    who: [...lead],
    params: idParams,
    query: between.pick({ from: true, until: true }),
    response: { file: 'application/pdf' },
  },
});
