import { z } from 'zod';
import { decisions, stepStates } from '#core/clearance/steps.ts';
import { contract, date, id, idParams, instant } from './endpoint.ts';

const clearanceStep = z.object({
  id,
  step: z.string(),
  approves: z.string(),
  order: z.int(),
  asks: z.string(),
  because: z.array(z.string()),
  dueOn: date.nullable(),
  state: z.enum(stepStates),
  decidedAt: instant.nullable(),
  decidedBy: z.string().nullable(),
  words: z.string(),
  mayDecide: z.boolean(),
});
const clearance = z.object({
  submittedAt: instant.nullable(),
  /** Whoever sent a plan does not clear it. */
  sentByMe: z.boolean(),
  lateByDays: z.int(),
  standing: z.enum(['not sent', 'not needed', 'under way', 'cleared', 'sent back', 'refused']),
  deadline: z.object({ date, daysLeft: z.int(), stepDays: z.int(), why: z.string() }).nullable(),
  facts: z.array(z.string()),
  steps: z.array(clearanceStep),
  lacks: z.array(z.string()),
});
export type Clearance = z.infer<typeof clearance>;

export const clearanceContract = contract({
  'GET /api/events/:id/clearance': {
    summary: 'The steps a plan needs or has, why, and the last day to send it',
    who: 'staff',
    params: idParams,
    response: clearance,
  },
  'POST /api/events/:id/clearance': {
    summary: 'Send a plan for clearance',
    who: ['unit lead'],
    params: idParams,
    response: clearance,
  },
  'POST /api/clearance-steps/:id/decision': {
    summary: 'Decide a step: clear, clear with conditions, send back, refuse',
    who: ['approver'],
    params: idParams,
    body: z.object({
      decision: z.enum(decisions),
      words: z.string().trim().max(2000).default(''),
    }),
    response: clearance,
  },
});
