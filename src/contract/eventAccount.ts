import { z } from 'zod';
import { accountNames } from '#core/money/accounts.ts';
import { code, contract, currency, date, done, id, idParams, instant, sum } from './endpoint.ts';

const kind = z.enum(['income', 'cost']);
const both = z.object({ planned: sum, actual: sum });
const budgetLine = z.object({
  kind,
  name: z.string().trim().min(1, code('name-needed')).max(80),
  amount: z.int().min(0).max(1_000_000_000),
  perHead: z.boolean(),
});

const account = z.object({
  currency,
  lines: z.array(
    z.object({ kind, name: z.string(), account: z.enum(accountNames).nullable(), planned: sum, actual: sum }),
  ),
  income: both,
  costs: both,
  result: both,
  perHead: z.object({ income: sum, cost: sum }).nullable(),
  breakEven: z.int().nullable(),
  heads: z.object({ planned: z.int(), actual: z.int() }),
  plan: z.array(budgetLine),
  spent: z.array(
    z.object({
      id,
      on: date,
      what: z.string(),
      line: z.string(),
      amount: sum,
      paidFrom: z.enum(['bank', 'cash']),
      at: instant,
      by: z.string(),
    }),
  ),
  /** Whether the caller may plan and record. */
  may: z.boolean(),
});
export type EventAccountShown = z.infer<typeof account>;

export const eventAccountContract = contract({
  'GET /api/events/:id/account': {
    summary: 'What an event was planned to bring and to cost, and what it did',
    who: ['treasurer', 'unit lead'],
    params: idParams,
    response: account,
  },
  'PUT /api/events/:id/budget': {
    summary: 'Plan what an event is to bring and to cost',
    who: ['treasurer', 'unit lead'],
    params: idParams,
    /** `seen`: the plan that was changed; where it is another one by now, nothing is saved. */
    body: z.object({ lines: z.array(budgetLine).max(60), seen: z.array(budgetLine).max(60) }),
    response: done,
  },
  'POST /api/events/:id/costs': {
    summary: 'Record what was spent for an event',
    who: ['treasurer', 'unit lead'],
    params: idParams,
    body: z.object({
      what: z.string().trim().min(1, code('about-needed')).max(200),
      line: z.string().trim().max(80).default(''),
      amount: z.int().min(1, 'amount-above-none').max(1_000_000_000),
      on: date,
      paidFrom: z.enum(['bank', 'cash']),
    }),
    response: z.object({ id }),
  },
  'POST /api/events/:id/costs/:cost/undo': {
    summary: 'Take back what was recorded as spent',
    who: ['treasurer', 'unit lead'],
    params: z.object({ id, cost: id }),
    response: done,
  },
});
