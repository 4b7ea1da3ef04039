import { z } from 'zod';
import { accountNames } from '#core/money/accounts.ts';
import { postingKinds } from '#core/money/posting.ts';
import { amount, contract, currency, id, instant, sum } from './endpoint.ts';
import { ofMoney } from './money.ts';

/** A posting is about all of its entries: books are not asked for by fund, an account is. */
const ofBooks = ofMoney.omit({ fundId: true });
const ofEntries = ofMoney.extend({ account: z.enum(accountNames).optional() });

const balance = z.object({
  account: z.enum(accountNames),
  fund: z.string().nullable(),
  fundId: id.nullable(),
  /** A debit where it is above nought, a credit below. */
  amount: sum,
});

export const booksContract = contract({
  'GET /api/books': {
    summary:
      'The trial balance by currency, of all, of one event, one person or some days; each adds up to nothing',
    who: ['treasurer'],
    query: ofBooks,
    response: z.array(z.object({ currency, balances: z.array(balance), debits: sum, credits: sum })),
  },
  'GET /api/books/entries': {
    summary: 'Entries of the books, newest first, with what all that were asked for come to',
    who: ['treasurer'],
    query: ofEntries,
    response: z.object({
      rows: z.array(
        z.object({
          /** Of the entry: a posting has one for each account and fund. */
          key: z.string(),
          at: instant,
          kind: z.enum(postingKinds),
          event: z.string().nullable(),
          eventId: id.nullable(),
          orderNumber: z.int().nullable(),
          giftNumber: z.int().nullable(),
          contactId: id.nullable(),
          name: z.string(),
          account: z.enum(accountNames),
          fund: z.string().nullable(),
          amount,
          currency,
        }),
      ),
      more: z.boolean(),
      totals: z.array(z.object({ currency, debits: sum, credits: sum })),
    }),
  },
  'GET /api/books.csv': {
    summary: 'Entries of the books as CSV, oldest first',
    who: ['treasurer'],
    query: ofEntries,
    response: { file: 'text/csv' },
  },
  'GET /api/books/owed': {
    summary: 'What people owe, and what is owed to them, booking by booking; the largest first',
    who: ['treasurer'],
    query: ofMoney.pick({ eventId: true, contactId: true }),
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
        /** Until when it is to be paid; null for what we owe, and without a date. */
        dueBy: instant.nullable(),
      }),
    ),
  },
});
