import { z } from 'zod';
import { accountNames } from '#core/money/accounts.ts';
import { code, contract, currency, date, done, id, idParams, instant, sum } from './endpoint.ts';

const kinds = z.enum(['payout', 'transfer', 'hand', 'owed', 'cost']);
const reason = z.union([
  z.object({ of: z.literal('same amount') }),
  z.object({ of: z.literal('days apart'), days: z.int() }),
  z.object({ of: z.literal('name in it') }),
  z.object({ of: z.literal('number in it') }),
  z.object({ of: z.literal('adds up'), count: z.int() }),
]);

const proposal = z.object({
  kind: kinds,
  ids: z.array(z.string()),
  weight: z.int(),
  reasons: z.array(reason),
  /** What it would be: who, which number, which day. */
  of: z.array(z.object({ name: z.string(), number: z.string(), on: date, amount: sum })),
});
export type BankProposed = z.infer<typeof proposal>;

const openLine = z.object({
  id,
  on: date,
  amount: sum,
  currency,
  words: z.string(),
  /** Another line of its file is just the same. */
  twice: z.boolean(),
  proposals: z.array(proposal),
});
export type BankOpen = z.infer<typeof openLine>;

const hows = z.enum(['payout', 'transfer', 'hand', 'owed', 'cost', 'fee', 'unexplained', 'elsewhere']);
const settledLine = z.object({
  id,
  on: date,
  amount: sum,
  currency,
  words: z.string(),
  how: hows,
  said: z.string(),
  settledAt: instant,
  settledBy: z.string(),
});
export type BankSettled = z.infer<typeof settledLine>;

export const bankContract = contract({
  'GET /api/bank': {
    summary: 'Lines of the bank that are open, each with what it may be and why, and those settled last',
    who: ['treasurer'],
    response: z.object({
      open: z.array(openLine),
      settled: z.array(settledLine),
      /** Lines that were ever brought in, and those settled. */
      all: z.int(),
      done: z.int(),
    }),
  },
  'POST /api/bank/files': {
    summary: 'Bring a file of the bank in: lines that are known already are left out',
    who: ['treasurer'],
    limit: '6mb',
    body: z.object({
      fileName: z.string().max(200),
      content: z.base64(),
      /** How days are written, where the file cannot tell. */
      dates: z.enum(['day first', 'month first']).nullable().default(null),
    }),
    response: z.object({
      brought: z.int(),
      known: z.int(),
      unread: z.array(z.object({ line: z.int(), why: z.enum(['no date', 'no amount']) })),
      dates: z.enum(['year first', 'day first', 'month first']),
      decimals: z.enum(['.', ',']),
    }),
  },
  'POST /api/bank/lines/:id/settle': {
    summary: 'Say what a line of the bank is',
    who: ['treasurer'],
    params: idParams,
    body: z.union([
      z.object({ how: kinds, ids: z.array(z.string().max(80)).min(1).max(40) }),
      z.object({
        how: z.enum(['fee', 'unexplained', 'elsewhere']),
        said: z.string().trim().min(3, code('reason-needed')).max(300),
      }),
    ]),
    response: done,
  },
  'POST /api/bank/lines/:id/undo': {
    summary: 'Take back what a line of the bank was said to be',
    who: ['treasurer'],
    params: idParams,
    response: done,
  },
  'GET /api/account-codes': {
    summary: 'By which codes an accountant knows the accounts',
    who: ['treasurer'],
    response: z.array(z.object({ account: z.enum(accountNames), code: z.string() })),
  },
  'PUT /api/account-codes': {
    summary: 'Change them; they stand beside every entry that is taken along',
    who: ['treasurer'],
    body: z.object({
      codes: z.array(z.object({ account: z.enum(accountNames), code: z.string().trim().max(30) })).max(40),
    }),
    response: done,
  },
});
