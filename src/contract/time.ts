import { z } from 'zod';
import { contract, instant } from './endpoint.ts';

const clock = z.object({
  now: instant,
  movable: z.boolean(),
  /** The next moment at which something is due. */
  nextDue: z.object({ at: instant, what: z.string() }).nullable(),
});

export const timeContract = contract({
  'GET /api/clock': { summary: "The product's clock and what is due next", who: 'staff', response: clock },
  'POST /api/clock': {
    summary: 'Move the demonstration clock forward and do everything that comes due, in order',
    who: ['coordinator'],
    ownTransactions: true,
    body: z.object({ to: instant }),
    response: clock.extend({ done: z.array(z.object({ what: z.string(), count: z.int() })) }),
  },
});
