import { z } from 'zod';
import { contract, currency, id, idParams, sum } from './endpoint.ts';
import { whoGets } from './mailings.ts';
import { saidShape } from './plan.ts';

/** Whom an event’s thanks go to: who came, who helped, who gave at it. */
export const thanked = ['came', 'helped', 'gave'] as const;
export type Thanked = (typeof thanked)[number];

const body = z.object({
  to: z.array(z.enum(thanked)).min(1, 'for-whom'),
  /** Writes the receipts that are due for what was paid and given at the event; each goes with its thanks. */
  receipts: z.boolean(),
  said: z.object(saidShape),
});
const receipt = z.object({ number: z.string(), eligible: sum, currency });

export const thanksContract = contract({
  'POST /api/events/:id/thanks/preview': {
    limit: '6mb',
    summary:
      'What would go out: each mail as it would be sent, each receipt as it would be written, who gets none and why',
    who: [],
    params: idParams,
    ownTransactions: true,
    body,
    response: z.object({
      people: z.array(
        z.object({
          contactId: id,
          name: z.string(),
          as: z.array(z.enum(thanked)),
          subject: z.string(),
          body: z.string(),
          receipt: receipt.nullable(),
        }),
      ),
      leftOut: whoGets.shape.leftOut,
      /** Who gave or paid and gets no receipt, and why. */
      noReceipt: z.array(z.object({ name: z.string(), why: z.string() })),
      /** Whether thanks went out before. */
      thankedBefore: z.int(),
    }),
  },
  'POST /api/events/:id/thanks': {
    limit: '6mb',
    summary: 'Thank an event’s people, each once, with the receipts they are due; all of it or none',
    who: [],
    params: idParams,
    body: body.extend({
      /** How many mails and receipts were seen; another number by now sends nothing. */
      expect: z.object({ mails: z.int(), receipts: z.int() }),
    }),
    response: z.object({ mails: z.int(), receipts: z.int() }),
  },
});
