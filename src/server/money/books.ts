import type { booksContract } from '#contract/books.ts';
import type { Answered } from '#contract/endpoint.ts';
import { seesStageEverywhere } from '#core/access/stages.ts';
import { writeCsv } from '#core/exchange/csv.ts';
import { accountNames } from '#core/money/accounts.ts';
import { plainAmount } from '#core/money/amount.ts';
import type { Asker } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { File, type Handlers } from '../http/handle.ts';
import { refused } from '../http/problem.ts';
import { type OfBooks, readBalances, readEntries, readOwed } from './bookSums.ts';

/** The whole books are for those who see the money of every event; a treasurer of a unit asks event by event. */
export async function demandBooks(
  c: Asker & { tx: Queries; query: { eventId?: string | undefined } },
): Promise<void> {
  if (seesStageEverywhere(c.staff, 'registration')) return;
  if (!c.query.eventId) throw refused('one-of-your-events', {}, 403);
  await eventFor(c, c.query.eventId, 'registration', 'see');
}

const askedOf = (query: { eventId?: string; from?: string; until?: string }): OfBooks => ({
  eventId: query.eventId ?? null,
  from: query.from ?? null,
  until: query.until ?? null,
});

type Trial = Answered<(typeof booksContract)['GET /api/books']>;

/** The sums of the books as a trial balance for each currency, accounts in their order. */
function trialOf(rows: Awaited<ReturnType<typeof readBalances>>): Trial {
  const trial: Trial = [];
  for (const { currency, ...balance } of rows) {
    let of = trial.find((t) => t.currency === currency);
    if (!of) {
      of = { currency, balances: [], debits: 0, credits: 0 };
      trial.push(of);
    }
    of.balances.push(balance);
    if (balance.amount > 0) of.debits += balance.amount;
    else of.credits -= balance.amount;
  }
  for (const { balances } of trial)
    balances.sort(
      (a, b) => accountNames.indexOf(a.account as never) - accountNames.indexOf(b.account as never),
    );
  return trial;
}

export const booksHandlers: Handlers<typeof booksContract> = {
  'GET /api/books': async (c) => {
    await demandBooks(c);
    return trialOf(await readBalances(c.tx, askedOf(c.query)));
  },

  'GET /api/books.csv': async (c) => {
    await demandBooks(c);
    const rows = await readEntries(c.tx, askedOf(c.query));
    return new File(
      'books.csv',
      writeCsv(
        [
          'Date',
          'Posting',
          'About',
          'Event',
          'Order',
          'Name',
          'Account',
          'Fund',
          'Debit',
          'Credit',
          'Currency',
          'By',
        ],
        rows.map((r) => [
          r.at,
          r.postingId,
          r.kind,
          r.event,
          r.orderNumber,
          r.name,
          r.account,
          r.fund,
          r.amount > 0 ? plainAmount(r.amount, r.currency) : '',
          r.amount < 0 ? plainAmount(-r.amount, r.currency) : '',
          r.currency,
          r.actor,
        ]),
      ),
    );
  },

  'GET /api/books/owed': async (c) => {
    await demandBooks(c);
    return readOwed(c.tx, c.query.eventId ?? null);
  },
};
