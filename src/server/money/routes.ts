import type { booksContract } from '#contract/books.ts';
import type { moneyContract } from '#contract/money.ts';
import type { registrationContract } from '#contract/registration.ts';
import { actsAs } from '#core/access/stages.ts';
import { isCoordinator } from '#core/access/viewer.ts';
import { writeCsv } from '#core/exchange/csv.ts';
import { plainAmount } from '#core/money/amount.ts';
import { balanceDue } from '#core/money/balanceDue.ts';
import { trialOf } from '#core/money/trial.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Asker } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { readEvent } from '../events/store.ts';
import { File, type Handlers } from '../http/handle.ts';
import { invalid, refused } from '../http/problem.ts';
import { orderByLink } from '../registration/links.ts';
import { type OrderRow, readOrder } from '../registration/store.ts';
import { readBehaviours, tellStandin } from '../standins/mail.ts';
import { demandBooks, mayTakeCash } from './access.ts';
import { ofMoney, readBalances, readEntries, readEntryTotals, readOwed } from './bookSums.ts';
import { confirmPayment, payByCard } from './charging.ts';
import { ledgerRows, ledgerTotals, unanswered } from './ledger.ts';
import { receive, refund } from './paying.ts';

const page = 500;

/**
 * Refuses to take or waive more than is still due: a nought too many is caught at the counter, where it can be put right.
 * A transfer or a cheque is what it is; what is too much of it is paid back.
 */
function atMostDue(order: OrderRow, { method, amount }: { method: string; amount: number }): void {
  const left = order.balance;
  if (method === 'transfer' || method === 'cheque' || amount <= left) return;
  throw invalid([
    left > 0
      ? wrongAt('amount', 'only-due', { due: { amount: left, currency: order.currency } })
      : wrongAt('amount', 'nothing-due'),
  ]);
}

/**
 * An order somebody may take money for. The door takes cash; cheques, transfers, and what is let off, are for the treasurer and
 * coordinators.
 */
async function payableBy(c: Asker & { tx: Queries }, orderId: string, method: string): Promise<OrderRow> {
  const order = await readOrder(c.tx, orderId);
  const event = await readEvent(c.tx, order.eventId);
  if (actsAs(c.staff, 'treasurer', event, c.now)) return order;
  if (!mayTakeCash(c.staff, event, c.now)) throw refused('not-your-event', {}, 403);
  if (method !== 'cash') throw refused('not-your-money', {}, 403);
  return order;
}

/** The door takes what is due: less only when that is said. */
function asMuchAsDue(
  c: Asker & { tx: Queries; body: { amount: number; reason: string } },
  order: OrderRow,
): void {
  if (isCoordinator(c.staff) || c.staff.roles.some((r) => r === 'treasurer' || r === 'unit lead')) return;
  if (c.body.amount >= order.balance || c.body.reason.length >= 3) return;
  throw invalid([
    {
      path: 'reason',
      code: 'less-taken',
      params: { due: { amount: order.balance, currency: order.currency } },
    },
  ]);
}

export const moneyHandlers: Handlers<typeof moneyContract> &
  Handlers<typeof booksContract> &
  Pick<
    Handlers<typeof registrationContract>,
    'POST /api/public/orders/:token/pay' | 'POST /api/public/orders/:token/pay/code'
  > = {
  'POST /api/public/orders/:token/pay': async ({ app, actor, params, body }) => {
    const orderId = await orderByLink(app.db, params.token);
    const outcome = await payByCard(app, actor, orderId, body.card);
    app.wake();
    return outcome;
  },

  'POST /api/public/orders/:token/pay/code': async ({ app, actor, params, body }) => {
    const outcome = await confirmPayment(
      app,
      actor,
      { orderId: await orderByLink(app.db, params.token) },
      body.code,
    );
    app.wake();
    return outcome;
  },

  'GET /api/ledger': async (c) => {
    const { tx, query } = c;
    await demandBooks(c, c.query.eventId);
    const of = ofMoney(query);
    const rows = await ledgerRows(tx, of, query.kind ?? null, page + 1);
    const totals = await ledgerTotals(tx, of);
    const unknown = await unanswered(tx, of);
    return { rows: rows.slice(0, page), more: rows.length > page, totals, unknown };
  },

  'GET /api/ledger.csv': async (c) => {
    const { tx, query } = c;
    await demandBooks(c, c.query.eventId);
    const rows = await ledgerRows(tx, ofMoney(query), query.kind ?? null, null);
    return new File(
      'ledger.csv',
      writeCsv(
        ['Date', 'Name', 'Event', 'Order', 'Kind', 'Method', 'Fund', 'Amount', 'Currency', 'Reason'],
        rows.map((r) => [
          r.at,
          r.name,
          r.event,
          r.orderNumber,
          r.amount < 0 ? 'refund' : r.method === 'waived' ? 'let off' : r.kind,
          r.method,
          r.fund,
          plainAmount(r.amount, r.currency),
          r.currency,
          r.reason,
        ]),
      ),
    );
  },

  'POST /api/orders/:id/payments': async (c) => {
    const order = await payableBy(c, c.params.id, c.body.method);
    if (c.body.method === 'waived' && !c.body.reason) throw invalid([{ path: 'reason', code: 'why-waived' }]);
    atMostDue(order, c.body);
    asMuchAsDue(c, order);
    return receive(
      c,
      order,
      c.body.amount,
      c.body.method,
      c.body.reason || `${c.body.method}, taken by ${c.staff.name}`,
    );
  },

  'POST /api/orders/:id/refunds': async (c) => {
    const order = await readOrder(c.tx, c.params.id);
    if (!actsAs(c.staff, 'treasurer', await readEvent(c.tx, order.eventId), c.now))
      throw refused('not-your-event', {}, 403);
    const { balance } = await refund(c, order, c.body.amount, c.body.reason, c.body);
    return { refunded: c.body.amount, balance };
  },

  'GET /api/books': async (c) => {
    await demandBooks(c, c.query.eventId);
    return trialOf(await readBalances(c.tx, ofMoney(c.query)));
  },

  'GET /api/books/entries': async (c) => {
    await demandBooks(c, c.query.eventId);
    const of = ofMoney(c.query);
    const rows = await readEntries(c.tx, of, page + 1);
    return {
      rows: rows.slice(0, page).map(({ postingId: _, code: __, actor: ___, ...row }) => row),
      more: rows.length > page,
      totals: await readEntryTotals(c.tx, of),
    };
  },

  'GET /api/books.csv': async (c) => {
    await demandBooks(c, c.query.eventId);
    const rows = await readEntries(c.tx, ofMoney(c.query));
    return new File(
      'books.csv',
      writeCsv(
        [
          'Date',
          'Posting',
          'About',
          'Event',
          'Order',
          'Gift',
          'Name',
          'Account',
          'Code',
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
          r.giftNumber,
          r.name,
          r.account,
          r.code,
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
    await demandBooks(c, c.query.eventId);
    const rows = await readOwed(c.tx, c.query.eventId ?? null, c.query.contactId ?? null);
    return rows.map(({ startsAt, zone, balanceDays, bookedAt, ...row }) => ({
      ...row,
      dueBy: row.amount > 0 ? balanceDue({ startsAt, zone, balanceDays }, bookedAt) : null,
    }));
  },

  'GET /api/standins': async ({ tx }) => {
    const rows = await readBehaviours(tx);
    return (['mail', 'cards', 'notices', 'payouts'] as const).map(
      (service) => rows.find((r) => r.service === service) ?? { service, mode: 'works', remaining: null },
    );
  },

  'PUT /api/standins': async (c) => {
    await tellStandin(c.tx, c.body);
    return { done: true };
  },
};
