import { z } from 'zod';
import {
  code,
  contract,
  currency,
  date,
  done,
  id,
  idParams,
  instant,
  sum,
  texts,
  token,
} from './endpoint.ts';

const whys = z.enum([
  'nothing stayed',
  'value unknown',
  'mostly advantage',
  'nothing given',
  'a chance',
  'sponsorship',
  'another currency',
  'no rules for the country',
  'before the rules',
  'no address',
  'erased',
  'still to come',
  'receipted already',
]);

const line = z.string().trim();
const settings = z.object({
  legalName: line.max(200),
  addressLines: z.string().trim().max(400),
  registration: line.max(60),
  place: line.max(120),
  signer: line.max(120),
  signerRole: line.max(120),
  thanks: texts,
  /** Yearly amounts that the organization confirmed, where the rules have such. */
  indexed: z
    .array(
      z.object({ year: z.int().min(2000).max(2100), smallMost: sum, lowCostMost: sum, lowCostFrom: sum }),
    )
    .max(30),
});
export type ReceiptSettings = z.infer<typeof settings>;

const receiptRow = z.object({
  id,
  number: z.string(),
  issuedAt: instant,
  contactId: id.nullable(),
  name: z.string(),
  amount: sum,
  advantage: sum,
  eligible: sum,
  currency,
  state: z.enum(['issued', 'void']),
  why: z.string(),
  replaces: z.string().nullable(),
  replacedBy: z.string().nullable(),
  /** What it is for has changed since. */
  stale: z.boolean(),
});
export type ReceiptRow = z.infer<typeof receiptRow>;

const batch = z.object({
  id,
  year: z.int(),
  mail: z.boolean(),
  state: z.enum(['running', 'stopped', 'done']),
  begunAt: instant,
  all: z.int(),
  written: z.int(),
  left: z.int(),
});
export type ReceiptBatch = z.infer<typeof batch>;

const left = z.object({ what: z.string(), amount: sum, why: whys });
const person = z.object({
  contactId: id,
  name: z.string(),
  currency,
  amount: sum,
  advantage: sum,
  eligible: sum,
  left: z.array(left),
});
export type ReceiptPerson = z.infer<typeof person>;

export const receiptsContract = contract({
  'GET /api/receipts': {
    summary: 'Receipts of a year, what is missing to write them, and batches',
    who: ['treasurer'],
    query: z.object({ year: z.coerce.number().int().min(2000).max(2100) }),
    response: z.object({
      rows: z.array(receiptRow),
      more: z.boolean(),
      years: z.array(z.int()),
      /** The rules of the organization’s country are known. */
      known: z.boolean(),
      missing: z.array(z.string()),
      batches: z.array(batch),
      totals: z.array(z.object({ currency, count: z.int(), eligible: sum })),
    }),
  },
  'GET /api/receipts/settings': {
    summary: 'What receipts say of the organization',
    who: ['treasurer'],
    response: settings.extend({ version: z.int(), country: z.string(), currency }),
  },
  'PUT /api/receipts/settings': {
    summary: 'Change what receipts say of the organization',
    who: ['treasurer'],
    body: settings.extend({ version: z.int() }),
    response: z.object({ version: z.int() }),
  },
  'GET /api/receipts/due': {
    summary: 'Who would get a receipt for a year and for how much, and who none and why',
    who: ['treasurer'],
    query: z.object({ year: z.coerce.number().int().min(2000).max(2100) }),
    response: z.object({
      get: z.array(person),
      none: z.array(person),
      totals: z.array(z.object({ currency, amount: sum, advantage: sum, eligible: sum })),
    }),
  },
  'POST /api/receipts': {
    summary: 'Write one receipt, for a year or for one gift',
    who: ['treasurer'],
    body: z.object({
      contactId: id,
      year: z.int().min(2000).max(2100),
      /** One gift alone; null for all of the year that has none yet. */
      giftId: id.nullable().default(null),
      mail: z.boolean().default(false),
    }),
    response: z.object({ id, number: z.string() }),
  },
  'POST /api/receipts/:id/void': {
    summary: 'Void a receipt; it is kept, marked',
    who: ['treasurer'],
    params: idParams,
    body: z.object({ why: line.min(3, code('reason-needed')).max(300) }),
    response: done,
  },
  'POST /api/receipts/:id/replace': {
    summary: 'Void a receipt and write another in its place, as things stand now',
    who: ['treasurer'],
    params: idParams,
    body: z.object({ why: line.min(3, code('reason-needed')).max(300) }),
    response: z.object({ id, number: z.string() }),
  },
  'GET /api/receipts/:id/receipt.pdf': {
    summary: 'A receipt as PDF',
    who: ['treasurer'],
    params: idParams,
    response: { file: 'application/pdf' },
  },
  'POST /api/receipts/batches': {
    summary: 'Write the receipts of a year, one each, in the background',
    who: ['treasurer'],
    body: z.object({ year: z.int().min(2000).max(2100), mail: z.boolean() }),
    response: z.object({ id }),
  },
  'POST /api/receipts/batches/:id/stop': {
    summary: 'Stop a batch; what is written stays',
    who: ['treasurer'],
    params: idParams,
    response: done,
  },
  'POST /api/receipts/batches/:id/go': {
    summary: 'Go on with a batch that was stopped',
    who: ['treasurer'],
    params: idParams,
    response: done,
  },
  'GET /api/receipts/batches/:id/receipts.pdf': {
    summary: 'The receipts of a batch in one PDF, to be printed',
    who: ['treasurer'],
    params: idParams,
    response: { file: 'application/pdf' },
  },
  'GET /api/events/:id/favours': {
    summary: 'What a seat at an event is worth, for receipts',
    who: ['treasurer'],
    params: idParams,
    response: z.object({
      itselfWhat: z.string(),
      besideWhat: z.string(),
      beside: sum,
      nearCash: sum,
      currency,
      offers: z.array(z.object({ name: z.string(), price: sum, valueReceived: sum })),
    }),
  },
  'PUT /api/events/:id/favours': {
    summary: 'Say what is shared out at an event beside what it is, a seat',
    who: ['treasurer'],
    params: idParams,
    body: z.object({
      itselfWhat: line.max(200),
      besideWhat: line.max(200),
      beside: z.int().min(0).max(10_000_000),
      nearCash: z.int().min(0).max(10_000_000),
    }),
    response: done,
  },
  'PUT /api/registrations/:id/receipt': {
    summary:
      'Say whose payment a seat is, for receipts: of whoever booked, or of who sits there, as whoever booked says',
    who: ['treasurer'],
    params: idParams,
    body: z.object({ own: z.boolean() }),
    response: done,
  },
  'GET /api/public/receipts/:token': {
    summary: 'A receipt as whoever it is for sees it',
    who: 'public',
    params: token,
    response: z.object({
      number: z.string(),
      issuedOn: date,
      name: z.string(),
      amount: sum,
      eligible: sum,
      currency,
      state: z.enum(['issued', 'void']),
      replacedBy: z.string().nullable(),
      thanks: z.string(),
    }),
  },
  'GET /api/public/receipts/:token/receipt.pdf': {
    summary: 'The same as PDF',
    who: 'public',
    params: token,
    response: { file: 'application/pdf' },
  },
  'GET /api/public/verify': {
    summary: 'Whether a receipt is ours, by its number and its code',
    who: 'public',
    query: z.object({ number: z.string().trim().max(30), code: z.string().trim().max(40) }),
    response: z.object({
      found: z.boolean(),
      state: z.enum(['issued', 'void']).nullable(),
      issuedOn: date.nullable(),
      eligible: sum.nullable(),
      currency: currency.nullable(),
      replacedBy: z.string().nullable(),
    }),
  },
});
