import { z } from 'zod';
import { depositBacks, depositStates } from '#core/crew/deposit.ts';
import { contract, done, id, idParams, instant, token } from './endpoint.ts';
import { bankCode, payOutcome, typedCard } from './paying.ts';

const amount = z.int().min(1, 'amount-needed').max(100_000_000);
/** What a call asks of whoever is accepted, and by which rule it goes back. In minor units. */
export const depositTerms = z.object({
  amount,
  back: z.enum(depositBacks),
  /** A shift given back so many hours before it begins, at least, counts no more. */
  noticeHours: z.int().min(0).max(720).default(24),
});

/** A deposit as whoever leads the crew sees it. */
export const deposit = z.object({
  id,
  amount: z.int(),
  currency: z.string(),
  state: z.enum(depositStates),
  received: z.int(),
  kept: z.int(),
  settledAt: instant.nullable(),
  settledBy: z.string().nullable(),
  /** Why so much went back; before that, what would go back now, and why. */
  why: z.string(),
  wouldGoBack: z.int(),
});

/** The same as whoever leaves it sees it. */
export const ownDeposit = deposit
  .pick({ amount: true, currency: true, state: true, received: true, kept: true })
  .extend({
    rule: z.string(),
    why: z.string(),
    /** How a payment stands; null where none is asked for. */
    payment: z.enum(['needed', 'unknown', 'step', 'declined']).nullable(),
  });

const lead = ['unit lead', 'crew lead'] as const;
const byHand = z.enum(['cash', 'cheque', 'transfer']);

export const depositsContract = contract({
  'POST /api/calls/:id/deposits': {
    summary: 'Ask everybody who was accepted and not asked yet for the deposit of a call',
    who: [...lead],
    params: idParams,
    body: z.object({ trying: z.boolean().default(false) }),
    response: z.object({ asked: z.int() }),
  },
  'POST /api/deposits/:id/received': {
    summary: 'Write down that a deposit came in by hand',
    who: [...lead],
    params: idParams,
    body: z.object({ method: byHand }),
    response: done,
  },
  'POST /api/deposits/:id/let-off': {
    summary: 'Ask for a deposit no more',
    who: [...lead],
    params: idParams,
    response: done,
  },
  'POST /api/deposits/:id/settle': {
    summary: 'Give a deposit back, all or a part of it, and keep the rest',
    who: [...lead],
    params: idParams,
    body: z.object({
      amount: z.int().min(0).max(100_000_000),
      /** Left out: the way it came. */
      by: byHand.nullable().default(null),
      words: z.string().trim().min(1, 'words-needed').max(300),
      tell: z.boolean().default(true),
    }),
    response: done,
  },
  'POST /api/public/applications/:token/deposit': {
    summary: 'Pay the deposit by card',
    who: 'public',
    ownTransactions: true,
    params: token,
    body: typedCard,
    response: payOutcome,
  },
  'POST /api/public/applications/:token/deposit/code': {
    summary: 'Hands on the code that the bank wants before it pays',
    who: 'public',
    ownTransactions: true,
    params: token,
    body: bankCode,
    response: payOutcome,
  },
});
