import { z } from 'zod';
import { type MoveKind, moveKinds } from '#core/money/processor.ts';
import { code, contract, currency, id, instant, sum } from './endpoint.ts';

const moveKind = z.enum(Object.keys(moveKinds) as MoveKind[]);

/** What stands otherwise at the processor than here, or waits for somebody. */
const open = z.object({
  what: z.enum(['aside', 'refund failed', 'disputed', 'unanswered', 'refund unanswered', 'not there']),
  id: z.string(),
  at: instant,
  amount: sum,
  currency,
  /** Why a move is put aside. */
  why: z.enum(['not ours', 'another amount', 'another currency']).nullable(),
  /** Of a move: what moved. */
  kind: moveKind.nullable(),
  /** What the processor says it is about, where nothing of ours is. */
  about: z.string(),
  /** Of what is ours: the booking. */
  orderNumber: z.int().nullable(),
  eventId: id.nullable(),
  event: z.string().nullable(),
  name: z.string(),
});
export type CardsOpen = z.infer<typeof open>;

const payout = z.object({
  id: z.string(),
  at: instant,
  amount: sum,
  currency,
  /** How many charges, refunds and disputes went with it, and what the processor kept of them. */
  moves: z.int(),
  fees: sum,
  failed: z.boolean(),
});
export type Payout = z.infer<typeof payout>;

export const cardsContract = contract({
  'POST /api/public/card-notifications': {
    summary: 'Takes a notification of the card processor; signed as the open standard for webhooks has it',
    who: 'public',
    ownTransactions: true,
    body: z.unknown(),
    response: z.object({ taken: z.literal(true) }),
  },
  'GET /api/cards': {
    summary: 'How the account with the card processor stands, its payouts, and what is not settled',
    who: ['treasurer'],
    response: z.object({
      readAt: instant.nullable(),
      /** By currency: what stands there by its statement, and by our books. */
      standing: z.array(z.object({ currency, there: sum, here: sum, fees: sum })),
      payouts: z.array(payout),
      open: z.array(open),
    }),
  },
  'GET /api/cards/payouts/:id': {
    summary: 'What went with a payout',
    who: ['treasurer'],
    params: z.object({ id: z.string().max(80) }),
    response: z.array(
      z.object({
        id: z.string(),
        at: instant,
        kind: moveKind,
        amount: sum,
        fee: sum,
        currency,
        orderNumber: z.int().nullable(),
        eventId: id.nullable(),
        name: z.string(),
      }),
    ),
  },
  'POST /api/cards/statement': {
    summary: 'Reads the statement of the card processor now',
    who: ['treasurer'],
    ownTransactions: true,
    response: z.object({ taken: z.int() }),
  },
  'POST /api/cards/moves/:id/settle': {
    summary: 'Says what a move is that nothing of ours explains; from then on it stands in the books',
    who: ['treasurer'],
    params: z.object({ id: z.string().max(80) }),
    body: z.object({ words: z.string().trim().min(3, code('reason-needed')).max(300) }),
    response: z.object({ done: z.literal(true) }),
  },
});
