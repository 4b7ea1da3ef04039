import { z } from 'zod';
import { amount, code, contract, id, token } from './endpoint.ts';

const ticket = z.object({ seats: z.array(id).min(1, code('seats-needed')).max(200), offerId: id });
/** What a change comes to: more to pay, owed back, and kept by the terms. */
const comesTo = z.object({ seats: z.int(), more: amount, back: amount, kept: amount });
export type ComesTo = z.infer<typeof comesTo>;
const date = z.object({ slug: z.string().min(1).max(200) });

/** What whoever booked changes of what they hold: another ticket, another date. */
export const exchangingContract = contract({
  'POST /api/public/orders/:token/ticket': {
    summary:
      'Change the ticket of some seats: what is more is to be paid, what is less goes back by the terms',
    who: 'public',
    params: token,
    body: ticket,
    response: comesTo,
  },
  'POST /api/public/orders/:token/ticket/what-if': {
    summary: 'What another ticket would come to; nothing is done',
    who: 'public',
    ownTransactions: true,
    params: token,
    body: ticket,
    response: comesTo,
  },
  'POST /api/public/orders/:token/date': {
    summary: 'Come on another date of the series: the whole booking goes, with what was paid',
    who: 'public',
    params: token,
    body: date,
    response: comesTo.extend({ token: z.string() }),
  },
  'POST /api/public/orders/:token/date/what-if': {
    summary: 'What another date would come to; nothing is done',
    who: 'public',
    ownTransactions: true,
    params: token,
    body: date,
    response: comesTo,
  },
});
