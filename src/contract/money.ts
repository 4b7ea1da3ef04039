import { z } from 'zod';
import { amount, contract, currency, date, id, idParams, instant, sum } from './endpoint.ts';

const ledgerRow = z.object({
  id,
  at: instant,
  contactId: id.nullable(),
  name: z.string(),
  event: z.string().nullable(),
  eventId: id.nullable(),
  orderNumber: z.int().nullable(),
  kind: z.enum(['seats', 'donation', 'deposit']),
  method: z.enum(['card', 'cash', 'cheque', 'transfer', 'in kind', 'contested', 'waived']),
  fund: z.string().nullable(),
  amount,
  currency,
  reason: z.string(),
});
export type LedgerRow = z.infer<typeof ledgerRow>;

/** What came in, went back and stayed, in one currency; what was let off did not come in. */
const ledgerTotals = z.object({
  currency,
  seats: sum,
  donations: sum,
  deposits: sum,
  refunds: sum,
  net: sum,
  waived: sum,
});
export type LedgerTotals = z.infer<typeof ledgerTotals>;

/** What of the money is asked for: of one event, one fund, one person, of some days of the organization, both included. */
export const ofMoney = z.object({
  eventId: id.optional(),
  fundId: id.optional(),
  contactId: id.optional(),
  from: date.optional(),
  until: date.optional(),
});

/** And of one kind. */
const ofLedger = ofMoney.extend({
  kind: z.enum(['seats', 'donation', 'deposit', 'refund', 'waived']).optional(),
});

export const moneyContract = contract({
  'GET /api/ledger': {
    summary: 'Every movement of money, newest first, with what they come to',
    who: ['treasurer'],
    query: ofLedger,
    response: z.object({
      rows: z.array(ledgerRow),
      more: z.boolean(),
      /** By currency, that of the organization first. */
      totals: z.array(ledgerTotals),
      unknown: z.array(
        z.object({ orderNumber: z.int(), name: z.string(), amount, currency, since: instant, eventId: id }),
      ),
    }),
  },
  'GET /api/ledger.csv': {
    summary: 'Movements of money as CSV',
    who: ['treasurer'],
    query: ofLedger,
    response: { file: 'text/csv' },
  },
  'POST /api/orders/:id/payments': {
    summary: 'Record money received by cash, cheque or transfer, or waive what is due',
    who: ['treasurer', 'unit lead', 'door'],
    params: idParams,
    body: z.object({
      method: z.enum(['cash', 'cheque', 'transfer', 'waived']),
      amount: amount.min(1, 'amount-above-none'),
      reason: z.string().trim().max(300).default(''),
    }),
    response: z.object({ balance: amount }),
  },
  'POST /api/orders/:id/refunds': {
    summary: 'Pay money back, at most what was received',
    who: ['treasurer'],
    params: idParams,
    body: z.object({
      amount: amount.min(1, 'amount-above-none'),
      reason: z.string().trim().min(3, 'reason-needed').max(300),
      /** Take it from the gift, which then no longer counts as given. */
      gift: z.boolean().default(false),
      /** By hand, another way than it came: null as it came. */
      by: z.enum(['cash', 'cheque', 'transfer']).nullable().default(null),
    }),
    response: z.object({ refunded: amount, balance: amount }),
  },
  'GET /api/standins': {
    summary: 'How the stand-ins of outside services behave',
    who: ['coordinator'],
    response: z.array(
      z.object({
        service: z.enum(['mail', 'texts', 'cards', 'notices', 'payouts', 'diaries']),
        mode: z.string(),
        remaining: z.int().nullable(),
      }),
    ),
  },
  'PUT /api/standins': {
    summary: 'Tell a stand-in to misbehave, for a number of calls or until told otherwise',
    who: ['coordinator'],
    body: z.object({
      service: z.enum(['mail', 'texts', 'cards', 'notices', 'payouts', 'diaries']),
      mode: z.enum([
        'works',
        'fails',
        'answer lost',
        'lost',
        'twice',
        'late',
        'mixed up',
        'refuses',
        'bounces',
        'complains',
      ]),
      remaining: z.int().min(1).max(10_000).nullable(),
    }),
    response: z.object({ done: z.literal(true) }),
  },
});
