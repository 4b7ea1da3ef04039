import type { Response } from 'express';
import type { receiptsContract } from '#contract/receipts.ts';
import { rulesFor } from '#core/receipts/rules.ts';
import { codeOf, isCodeOf, missingOf } from '#core/receipts/year.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { wrongAt } from '#core/words/problems.ts';
import { readTexts } from '#core/words/texts.ts';
import { followLink } from '../app/app.ts';
import { record } from '../app/record.ts';
import type { Queries } from '../db/database.ts';
import { readEvent, readOffers } from '../events/store.ts';
import { File, type Handlers } from '../http/handle.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { demandBooks } from '../money/access.ts';
import { type PrintedReceipt, receiptsPdf, streamReceipts } from '../print/receipt.ts';
import { readOrder, readSeat } from '../registration/store.ts';
import { theOrganization } from '../staff/store.ts';
import { beginBatch, steerBatch } from './batches.ts';
import {
  type ReceiptKept,
  readBatches,
  readFavours,
  readParts,
  readReceipt,
  readReceiptByNumber,
  readReceipts,
  readReceiptsOf,
  readReceiptTotals,
  readSettings,
  readYears,
  saveFavours,
  saveOwnPayment,
  saveSettings,
} from './store.ts';
import { dueOf, issuerOf, personOf, replaceReceipt, voidReceipt, writeOne } from './writing.ts';

const page = 1000;

const printed = (origin: string, receipt: ReceiptKept): PrintedReceipt => ({
  ...receipt,
  verifyAt: `${origin}/verify?number=${receipt.number}&code=${codeOf(receipt.sha256)}`,
});

const pdfOf = async (origin: string, receipt: ReceiptKept): Promise<File> =>
  new File(
    `receipt-${receipt.number}.pdf`,
    await receiptsPdf(receipt.number, [printed(origin, receipt)]),
    true,
  );

/** As many receipts are read at a time for one long file. */
const lot = 50;

async function* lotsOf(tx: Queries, batchId: string, origin: string): AsyncGenerator<PrintedReceipt[]> {
  for (let after = ''; ; ) {
    const receipts = await readReceiptsOf(tx, batchId, after, lot);
    if (receipts.length) yield receipts.map((r) => printed(origin, r));
    if (receipts.length < lot) return;
    after = receipts.at(-1)!.number;
  }
}

/** Receipts in one file, sent as they are drawn. */
class ReceiptsFile extends File {
  constructor(
    private readonly title: string,
    private readonly lots: () => AsyncIterable<readonly PrintedReceipt[]>,
  ) {
    super(`${title}.pdf`, '');
  }
  start(response: Response): void {
    response.status(200).type('application/pdf').attachment(this.name);
    streamReceipts(this.title, this.lots(), response).catch((error) => response.destroy(error));
  }
}

async function kept(tx: Queries, id: string): Promise<ReceiptKept> {
  const receipt = await readReceipt(tx, id);
  if (!receipt) throw notFound('Receipt');
  return receipt;
}

async function byLink(tx: Queries, token: string): Promise<ReceiptKept> {
  const id = await followLink(tx, 'receipt', token);
  if (!id) throw notFound('This receipt');
  return kept(tx, id);
}

export const receiptsHandlers: Handlers<typeof receiptsContract> = {
  'GET /api/receipts': async (c) => {
    await demandBooks(c);
    const { tx, now, query } = c;
    const rows = await readReceipts(tx, now, query.year, page + 1);
    const { country, zone } = await theOrganization(tx);
    return {
      rows: rows.slice(0, page),
      more: rows.length > page,
      years: [...new Set([Number(dateOf(now, zone).slice(0, 4)), ...(await readYears(tx))])].sort(
        (a, b) => b - a,
      ),
      known: rulesFor(country, dateOf(now, zone)).rules !== undefined,
      missing: missingOf(issuerOf(await readSettings(tx))),
      batches: await readBatches(tx, query.year),
      totals: await readReceiptTotals(tx, query.year),
    };
  },

  'GET /api/receipts/settings': async (c) => {
    await demandBooks(c);
    const { country, currency } = await theOrganization(c.tx);
    return { ...(await readSettings(c.tx)), country, currency };
  },

  'PUT /api/receipts/settings': async (c) => {
    await demandBooks(c);
    const { version, ...settings } = c.body;
    const before = await readSettings(c.tx, true);
    if (before.version !== version) throw refused('changed-by-somebody');
    if (new Set(settings.indexed.map((i) => i.year)).size < settings.indexed.length)
      throw invalid([wrongAt('indexed', 'year-twice')]);
    await saveSettings(c.tx, settings, version + 1, c.now);
    await record(c, 'receipts set up', {});
    return { version: version + 1 };
  },

  'GET /api/receipts/due': async (c) => {
    await demandBooks(c);
    const due = await dueOf(c.tx, await readParts(c.tx, { now: c.now, year: c.query.year }));
    const get = due.filter((d) => d.assessed.lines.length > 0).map(personOf);
    const sums = new Map<string, { currency: string; amount: number; advantage: number; eligible: number }>();
    for (const p of get) {
      const of = sums.get(p.currency) ?? { currency: p.currency, amount: 0, advantage: 0, eligible: 0 };
      of.amount += p.amount;
      of.advantage += p.advantage;
      of.eligible += p.eligible;
      sums.set(p.currency, of);
    }
    return {
      get,
      none: due.filter((d) => !d.assessed.lines.length).map(personOf),
      totals: [...sums.values()],
    };
  },

  'POST /api/receipts': async (c) => {
    await demandBooks(c);
    return writeOne(c, c.body);
  },

  'POST /api/receipts/:id/void': async (c) => {
    await demandBooks(c);
    await voidReceipt(c, c.params.id, c.body.why);
    return { done: true };
  },

  'POST /api/receipts/:id/replace': async (c) => {
    await demandBooks(c);
    return replaceReceipt(c, c.params.id, c.body.why);
  },

  'GET /api/receipts/:id/receipt.pdf': async (c) => {
    await demandBooks(c);
    return pdfOf(c.app.origin, await kept(c.tx, c.params.id));
  },

  'POST /api/receipts/batches': async (c) => {
    await demandBooks(c);
    return beginBatch(c, c.body.year, c.body.mail);
  },

  'POST /api/receipts/batches/:id/stop': async (c) => {
    await demandBooks(c);
    await steerBatch(c, c.params.id, 'stopped');
    return { done: true };
  },

  'POST /api/receipts/batches/:id/go': async (c) => {
    await demandBooks(c);
    await steerBatch(c, c.params.id, 'running');
    return { done: true };
  },

  'GET /api/receipts/batches/:id/receipts.pdf': async (c) => {
    await demandBooks(c);
    const [first] = await readReceiptsOf(c.tx, c.params.id, '', 1);
    if (!first) throw notFound('Receipt');
    return new ReceiptsFile(`receipts-${first.year}`, () => lotsOf(c.tx, c.params.id, c.app.origin));
  },

  'GET /api/events/:id/favours': async (c) => {
    await demandBooks(c, c.params.id);
    const event = await readEvent(c.tx, c.params.id);
    const favours = await readFavours(c.tx, event.id);
    return {
      ...(favours ?? { itselfWhat: '', besideWhat: '', beside: 0, nearCash: 0 }),
      currency: event.paidIn,
      offers: (await readOffers(c.tx, event.id))
        .filter((o) => o.price > 0)
        .map(({ name, price, valueReceived }) => ({ name, price, valueReceived })),
    };
  },

  'PUT /api/events/:id/favours': async (c) => {
    await demandBooks(c, c.params.id);
    const { body } = c;
    const wrong = [
      ...(body.nearCash > body.beside ? [wrongAt('nearCash', 'near-cash-above')] : []),
      ...(body.beside > 0 && !body.besideWhat ? [wrongAt('besideWhat', 'beside-what')] : []),
    ];
    if (wrong.length) throw invalid(wrong);
    const event = await readEvent(c.tx, c.params.id);
    await saveFavours(c.tx, event.id, body);
    await record(c, 'seats valued', { eventId: event.id });
    return { done: true };
  },

  'PUT /api/registrations/:id/receipt': async (c) => {
    const seat = await readSeat(c.tx, c.params.id);
    await demandBooks(c, seat.eventId);
    const { buyerContactId } = await readOrder(c.tx, seat.orderId);
    // A receipt needs somebody it is for, and it is theirs already where they booked.
    if (c.body.own && (!seat.contactId || seat.contactId === buyerContactId))
      throw refused('nobody-else-paid');
    await saveOwnPayment(c.tx, seat.id, c.body.own);
    await record(c, 'seat receipted', { eventId: seat.eventId, registrationId: seat.id, own: c.body.own });
    return { done: true };
  },

  'GET /api/public/receipts/:token': async ({ tx, params }) => {
    const { number, content, state, replacedBy, language } = await byLink(tx, params.token);
    return {
      number,
      issuedOn: content.issuedOn,
      name: content.giver.name,
      amount: content.amount,
      eligible: content.eligible,
      currency: content.currency,
      state,
      replacedBy,
      thanks: readTexts((await readSettings(tx)).thanks, language),
    };
  },

  'GET /api/public/receipts/:token/receipt.pdf': async ({ app, tx, params }) =>
    pdfOf(app.origin, await byLink(tx, params.token)),

  'GET /api/public/verify': async ({ tx, query }) => {
    const receipt = await readReceiptByNumber(tx, query.number);
    // With another code it is as if there were none: numbers follow one another and are easily guessed.
    if (!receipt || !isCodeOf(query.code, receipt.sha256))
      return { found: false, state: null, issuedOn: null, eligible: null, currency: null, replacedBy: null };
    const { state, content, replacedBy } = receipt;
    return {
      found: true,
      state,
      issuedOn: content.issuedOn,
      eligible: content.eligible,
      currency: content.currency,
      replacedBy,
    };
  },
};
