import { z } from 'zod';
import { giftStates, tributes } from '#core/giving/gift.ts';
import { pledgeStates } from '#core/giving/pledge.ts';
import {
  amount,
  code,
  contract,
  currency,
  date,
  done,
  id,
  idParams,
  instant,
  personName,
  sum,
  texts,
  token,
} from './endpoint.ts';
import { bankCode, payOutcome, typedCard } from './paying.ts';

const giftAmount = z
  .int(code('gift-amount'))
  .min(100, code('gift-amount'))
  .max(10_000_000, code('gift-amount'));
const payment = z.enum(['needed', 'step', 'unknown', 'declined', 'paid', 'over']);

/** How a page to give on looks to the public. */
const publicPage = z.object({
  slug: z.string(),
  title: z.string(),
  words: z.string(),
  fund: z.string(),
  initiative: z.string().nullable(),
  event: z.object({ slug: z.string(), title: z.string() }).nullable(),
  currency,
  goal: sum.nullable(),
  given: sum,
  gifts: z.int(),
  untilOn: date.nullable(),
  suggested: z.array(amount),
  monthly: z.boolean(),
  open: z.boolean(),
  /** The latest who let themselves be named. */
  givers: z.array(
    z.object({ name: z.string().nullable(), words: z.string(), tribute: z.string().nullable() }),
  ),
});
export type PublicGivingPage = z.infer<typeof publicPage>;

const tribute = z.object({
  kind: z.enum(tributes),
  to: z.string().trim().min(1, code('tribute-to-whom')).max(120),
  /** Who is told of it, without the amount. */
  tellName: z.string().trim().max(120).default(''),
  tellEmail: z.string().trim().max(254).default(''),
});

const giver = personName.extend({
  email: z.string().trim().max(254),
  phone: z.string().trim().max(40).default(''),
  street: z.string().trim().max(200).default(''),
  town: z.string().trim().max(120).default(''),
  postalCode: z.string().trim().max(20).default(''),
  country: z
    .string()
    .regex(/^[A-Z]{2}$/u)
    .nullable()
    .default(null),
});

const giftBody = z.object({
  amount: giftAmount,
  monthly: z.boolean().default(false),
  giver,
  tribute: tribute.nullable().default(null),
  /** Said beside the name, on the page. */
  words: z.string().trim().max(200).default(''),
  anonymous: z.boolean().default(false),
  language: z.enum(['en', 'fr']).default('en'),
});
export type GiftBody = z.input<typeof giftBody>;

const publicGift = z.object({
  number: z.int(),
  page: z.object({ slug: z.string(), title: z.string() }).nullable(),
  given: z.string(),
  amount,
  currency,
  fund: z.string(),
  tribute: z.string().nullable(),
  state: z.enum(giftStates),
  payment,
  /** What the page thanks with. */
  thanks: z.string(),
  monthly: z.boolean(),
});
export type PublicGift = z.infer<typeof publicGift>;

const publicPledge = z.object({
  number: z.int(),
  given: z.string(),
  amount,
  currency,
  fund: z.string(),
  state: z.enum(pledgeStates),
  day: z.int(),
  next: date.nullable(),
  cardEnding: z.string(),
  cardExpires: z.string().nullable(),
  gifts: z.array(z.object({ number: z.int(), on: date, amount, state: z.enum(giftStates) })),
});
export type PublicPledge = z.infer<typeof publicPledge>;

const pageFields = z.object({
  title: texts,
  words: texts,
  thanks: texts,
  fundId: id,
  initiativeId: id.nullable(),
  eventId: id.nullable(),
  goal: giftAmount.nullable(),
  untilOn: date.nullable(),
  suggested: z.array(giftAmount).max(6),
  monthly: z.boolean(),
  showsGivers: z.boolean(),
  open: z.boolean(),
});
export type GivingPageFields = z.infer<typeof pageFields>;

const givingPage = pageFields.extend({
  id,
  slug: z.string(),
  version: z.int(),
  currency,
  fund: z.string(),
  initiative: z.string().nullable(),
  event: z.string().nullable(),
  given: sum,
  gifts: z.int(),
});
export type GivingPage = z.infer<typeof givingPage>;

const pageMade = z.object({ id, slug: z.string(), version: z.int() });

const giftRow = z.object({
  id,
  number: z.int(),
  at: instant,
  contactId: id.nullable(),
  name: z.string(),
  kind: z.enum(['money', 'in kind']),
  thing: z.string(),
  fund: z.string(),
  initiative: z.string().nullable(),
  page: z.string().nullable(),
  event: z.string().nullable(),
  tribute: z.enum(tributes).nullable(),
  tributeTo: z.string(),
  anonymous: z.boolean(),
  /** Staff keep it off the page: who gave, and what was said with it. */
  hidden: z.boolean(),
  pledge: z.int().nullable(),
  method: z.string().nullable(),
  amount: sum,
  received: sum,
  currency,
  state: z.enum(giftStates),
});
export type GiftRow = z.infer<typeof giftRow>;

const pledgeRow = z.object({
  id,
  number: z.int(),
  contactId: id.nullable(),
  name: z.string(),
  email: z.string(),
  fund: z.string(),
  amount,
  currency,
  state: z.enum(pledgeStates),
  day: z.int(),
  next: date.nullable(),
  tries: z.int(),
  cardExpires: z.string().nullable(),
  given: sum,
});
export type PledgeRow = z.infer<typeof pledgeRow>;

/** A gift that staff record: what came by hand, or in kind. */
const staffGift = z.object({
  contactId: id.nullable(),
  person: personName.extend({ email: z.string().trim().max(254).default('') }).nullable(),
  kind: z.enum(['money', 'in kind']),
  method: z.enum(['cash', 'cheque', 'transfer']),
  amount: giftAmount,
  fundId: id,
  initiativeId: id.nullable().default(null),
  eventId: id.nullable().default(null),
  pageId: id.nullable().default(null),
  thing: z.string().trim().max(300).default(''),
  appraisedBy: z.string().trim().max(120).default(''),
  advantage: z.int().min(0).max(10_000_000).default(0),
  advantageWhat: z.string().trim().max(200).default(''),
  tribute: tribute.nullable().default(null),
  anonymous: z.boolean().default(false),
  reference: z.string().trim().max(200).default(''),
});

const byHand = z.enum(['cash', 'cheque', 'transfer']).nullable().default(null);

const initiative = z.object({ name: z.string().trim().min(1, code('initiative-unnamed')).max(120) });

export const givingContract = contract({
  'GET /api/public/giving/:slug': {
    summary: 'A page to give on',
    who: 'public',
    params: z.object({ slug: z.string().max(200) }),
    response: publicPage,
  },
  'POST /api/public/giving/:slug/gifts': {
    summary: 'Begin a gift, once or every month; it is paid next',
    who: 'public',
    params: z.object({ slug: z.string().max(200) }),
    body: giftBody,
    response: z.object({ token: z.string(), number: z.int() }),
  },
  'GET /api/public/gifts/:token': {
    summary: 'A gift as whoever gives it sees it',
    who: 'public',
    params: token,
    response: publicGift,
  },
  'POST /api/public/gifts/:token/pay': {
    summary: 'Pay a gift by card; one of every month keeps the card',
    who: 'public',
    ownTransactions: true,
    params: token,
    body: typedCard,
    response: payOutcome,
  },
  'POST /api/public/gifts/:token/pay/code': {
    summary: 'Hands on the code that the bank wants before it pays',
    who: 'public',
    ownTransactions: true,
    params: token,
    body: bankCode,
    response: payOutcome,
  },
  'GET /api/public/pledges/:token': {
    summary: 'A monthly gift as whoever gives it sees it',
    who: 'public',
    params: token,
    response: publicPledge,
  },
  'POST /api/public/pledges/:token': {
    summary: 'Change a monthly gift: its amount, pause it, go on with it, end it',
    who: 'public',
    params: token,
    body: z.object({
      amount: giftAmount.optional(),
      state: z.enum(['running', 'paused', 'ended']).optional(),
    }),
    response: done,
  },
  'POST /api/public/pledges/:token/card': {
    summary: 'Give another card for a monthly gift',
    who: 'public',
    ownTransactions: true,
    params: token,
    body: typedCard,
    response: done,
  },
  'GET /api/giving': {
    summary: 'Pages to give on, monthly gifts, and what was given apart from bookings',
    who: ['treasurer'],
    response: z.object({ pages: z.array(givingPage), pledges: z.array(pledgeRow) }),
  },
  'GET /api/giving/choices': {
    summary: 'What a gift can be for',
    who: ['treasurer'],
    response: z.object({
      funds: z.array(z.object({ id, name: z.string() })),
      initiatives: z.array(z.object({ id, name: z.string() })),
      events: z.array(z.object({ id, title: z.string() })),
      pages: z.array(z.object({ id, title: z.string() })),
    }),
  },
  'POST /api/giving/pages': {
    summary: 'Make a page to give on',
    who: ['treasurer'],
    body: pageFields,
    response: pageMade,
  },
  'PUT /api/giving/pages/:id': {
    summary: 'Change a page to give on',
    who: ['treasurer'],
    params: idParams,
    body: pageFields.extend({ version: z.int() }),
    response: pageMade,
  },
  'POST /api/initiatives': {
    summary: 'Add an initiative that gifts can be for',
    who: ['treasurer'],
    body: initiative,
    response: z.object({ id }),
  },
  'PATCH /api/initiatives/:id': {
    summary: 'Give an initiative another name',
    who: ['treasurer'],
    params: idParams,
    body: initiative,
    response: done,
  },
  'GET /api/gifts': {
    summary: 'Gifts apart from bookings, newest first',
    who: ['treasurer'],
    query: z.object({ pageId: id.optional(), fundId: id.optional() }),
    response: z.object({ rows: z.array(giftRow), more: z.boolean() }),
  },
  'POST /api/gifts': {
    summary: 'Record a gift that came by hand, or in kind',
    who: ['treasurer'],
    body: staffGift,
    response: z.object({ id, number: z.int() }),
  },
  'PUT /api/gifts/:id/hidden': {
    summary: 'Keep a gift off its page, with its name and its words, or show it again',
    who: ['treasurer'],
    params: idParams,
    body: z.object({ hidden: z.boolean() }),
    response: done,
  },
  'POST /api/gifts/:id/refunds': {
    summary: 'Pay a gift back, at most what came in',
    who: ['treasurer'],
    params: idParams,
    body: z.object({
      amount: amount.min(1, 'amount-above-none'),
      reason: z.string().trim().min(3, 'reason-needed').max(300),
      by: byHand,
    }),
    response: done,
  },
});
