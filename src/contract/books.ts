import { z } from 'zod';
import { accountNames } from '#core/money/accounts.ts';
import { amount, contract, currency, date, id, instant, sum } from './endpoint.ts';

/** What of the books is asked for: of one event, of some days; all of it where nothing is said. */
const ofBooks = z.object({
  eventId: id.optional(),
  from: date.optional(),
  until: date.optional(),
});

const balance = z.object({
  account: z.enum(accountNames),
  fund: z.string().nullable(),
  /** A debit where it is above nought, a credit below. */
  amount: sum,
});

export const booksContract = contract({
  'GET /api/books': {
    summary: 'The trial balance by currency, of all, of one event or of some days; each adds up to nothing',
    who: ['treasurer'],
    query: ofBooks,
    response: z.array(z.object({ currency, balances: z.array(balance), debits: sum, credits: sum })),
  },
  'GET /api/books.csv': {
    summary: 'Every entry of the books as CSV, oldest first',
    who: ['treasurer'],
    query: ofBooks,
    response: { file: 'text/csv' },
  },
  'GET /api/books/owed': {
    summary: 'What people owe, and what is owed to them, booking by booking; the largest first',
    who: ['treasurer'],
    query: z.object({ eventId: id.optional() }),
    response: z.array(
      z.object({
        orderId: id,
        orderNumber: z.int(),
        contactId: id.nullable(),
        name: z.string(),
        event: z.string(),
        eventId: id,
        amount,
        currency,
        /** When it was last posted about. */
        since: instant,
      }),
    ),
  },
});
