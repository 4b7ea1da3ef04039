import { z } from 'zod';
import { registrationStates } from '#core/registration/states.ts';
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
  token,
} from './endpoint.ts';
import { bankCode, payOutcome, typedCard } from './paying.ts';
import {
  enteredCode,
  filter,
  listingQuery,
  publicEvent,
  publicFrame,
  publicListing,
  publicQuestion,
} from './publicEvent.ts';
import { signingOfSeat, waiverText } from './waivers.ts';

export const answerValue = z.union([z.boolean(), z.string().max(5000), z.array(z.string().max(500)).max(60)]);
/** What was answered, by question. */
export const answers = z.record(z.string(), answerValue);
/** Who sits on a seat, and what they answer. */
export const seatBody = personName.extend({
  /** Not given, a corrected spelling keeps the one there is. */
  birthDate: date.nullable().default(null),
  /** Not given, what was answered stays; of somebody else it goes with whoever it was. */
  answers: answers.optional(),
});

export const orderBody = z.object({
  buyer: personName.extend({
    given: z.string().trim().min(1, code('first-name-needed')).max(100),
    family: z.string().trim().min(1, code('last-name-needed')).max(100),
    email: z.string().trim().max(254),
    phone: z.string().trim().max(40).default(''),
  }),
  lines: z
    .array(
      z.object({
        offerId: id,
        units: z.int(code('whole-number')).min(1, code('whole-number')).max(100_000, code('more-than-sold')),
        /** What is paid for each, where one pays what one can. */
        price: z.int().nullable().default(null),
      }),
    )
    .max(30),
  extras: z
    .array(
      z.object({
        extraId: id,
        optionId: id.nullable().default(null),
        units: z.int(code('whole-number')).min(1, code('whole-number')).max(100_000, code('more-than-sold')),
      }),
    )
    .max(60)
    .default([]),
  /** A code that opens an offer, or lowers prices. */
  code: z.string().trim().max(60).default(''),
  /** What it came to when it was looked over: nothing is booked where it comes to something else by now. */
  expects: amount.nullable().default(null),
  /** One a seat, in the order of the lines. A name can be given later. */
  attendees: z
    .array(
      personName.extend({
        birthDate: date.nullable().default(null),
        /** Somebody of the household of whoever is signed in, as they are on record. */
        contactId: id.nullable().default(null),
        email: z.string().trim().max(254).default(''),
        answers: answers.default({}),
      }),
    )
    .max(500),
  answers: answers.default({}),
  donation: z
    .object({
      amount: z.int().min(0, code('donation-out-of-range')),
      fundId: id.nullable(),
      anonymous: z.boolean().default(false),
    })
    .default({ amount: 0, fundId: null, anonymous: false }),
  language: z.enum(['en', 'fr']).default('en'),
  /** The time zone of whoever books; what is none is as none. */
  zone: z.string().max(64).default(''),
  /** The link they came through, as it stands in the address. */
  from: z.string().max(20).default(''),
  /** The link of their invitation, where they came by one. */
  invited: z.string().max(100).default(''),
  /** Whether to join the waitlist when the party does not fit. */
  waitlist: z.boolean().default(true),
});
export type OrderBody = z.input<typeof orderBody>;
const publicOrderBody = orderBody.extend({
  /** Other dates of the same series, by their addresses, for which the same is booked. */
  also: z.array(z.string().max(200)).max(60).default([]),
});
export type PublicOrderBody = z.input<typeof publicOrderBody>;
const standingOfOrder = z.enum(['asked', 'held', 'confirmed', 'waitlisted']);
const staffOrderBody = orderBody.extend({
  /** Who books, where they were picked among those on record. */
  contactId: id.nullable().default(null),
});
const orderPlaced = z.object({
  token: z.string(),
  standing: standingOfOrder,
  total: amount,
  currency,
  also: z.array(
    z.object({ slug: z.string(), token: z.string(), standing: standingOfOrder, total: amount, currency }),
  ),
});
export type OrderPlaced = z.infer<typeof orderPlaced>;

/** An event as the pages of whoever holds something of it name it. */
export const eventInShort = z.object({
  slug: z.string(),
  title: z.string(),
  startsLocal: z.string().nullable(),
  endsLocal: z.string().nullable(),
  zone: z.string(),
  place: z.string().nullable(),
  state: z.string(),
});
export type EventInShort = z.infer<typeof eventInShort>;

/** Chances in ten, from so many to so many. */
export const tenths = z.object({ from: z.int(), to: z.int() });
export type Tenths = z.infer<typeof tenths>;
const publicOrder = z.object({
  number: z.int(),
  language: z.string(),
  event: eventInShort.extend({
    startsAt: instant.nullable(),
    /** What registrants are told once they have a seat; empty before, and where nothing is. */
    afterwards: z.string(),
    /** Files and links for the day, for who has a seat. */
    dayFiles: z.array(
      z.object({ id, label: z.string(), address: z.string().nullable(), fileId: id.nullable() }),
    ),
    /** The room online, for who has a seat there; null before, and for everybody else. */
    online: z.object({ link: z.string(), instructions: z.string() }).nullable(),
  }),
  buyer: z.object({ given: z.string(), family: z.string(), email: z.string().nullable() }),
  standing: z.enum(['asked', 'held', 'waitlisted', 'offered', 'confirmed', 'ended']),
  /** What is asked of whoever booked and of everybody who comes, with what was answered for the booking. */
  form: z.object({ questions: z.array(publicQuestion), answers }),
  /** Until when seats can be named and answers changed; null where they cannot any more. */
  namesUntil: instant.nullable(),
  /** What the organizer asked back before deciding, with what was answered. */
  questions: z.array(z.object({ id, words: z.string(), answer: z.string().nullable() })),
  heldUntil: instant.nullable(),
  offeredUntil: instant.nullable(),
  /** Place in the queue of the waitlist, 1 is next. */
  queuePlace: z.int().nullable(),
  /** How likely they are to be offered seats, from how seats came free before; null where too little is known. */
  odds: tenths.nullable(),
  currency,
  due: amount,
  received: amount,
  balance: amount,
  /** What is to be paid now; less than the balance where a deposit is enough. */
  payNow: amount,
  /** What it asks for, line by line. */
  lines: z.array(z.object({ name: z.string(), units: z.int(), amount, discount: amount, tax: amount })),
  /** What was kept of seats that were given up. */
  kept: amount,
  refunds: z.array(z.object({ until: z.string().nullable(), days: z.int(), percent: z.int() })),
  /** The day until which what is still owed is to be paid; null where nothing is, or without a date. */
  payBy: z.object({ on: date, overdue: z.boolean() }).nullable(),
  donation: amount,
  donationFund: z.string().nullable(),
  /** `unknown`: the card processor has not answered; nothing must be paid again. */
  payment: z.enum(['none', 'needed', 'step', 'unknown', 'declined', 'paid']),
  paymentWords: z.string(),
  seats: z.array(
    z.object({
      id,
      offer: z.string(),
      offerId: id,
      given: z.string(),
      family: z.string(),
      hasBirthDate: z.boolean(),
      needsBirthDate: z.boolean(),
      state: z.enum(registrationStates),
      /** What was answered for it by whoever booked; what a guest says of themselves is theirs. */
      answers,
      /** The guest who fills it in themselves: where they were written to, and whether they did. */
      guest: z.object({ email: z.string(), filled: z.boolean() }).nullable(),
      /** Printed code and a QR picture as SVG, only for confirmed seats. */
      pass: z.object({ code: z.string(), svg: z.string() }).nullable(),
      ...signingOfSeat.shape,
    }),
  ),
  /** Whether whoever opened it is told what they signed elsewhere: they are signed in, or have the link from their mail. */
  toldSigned: z.boolean(),
  /** The waivers that its seats still have to sign. */
  waivers: z.array(waiverText),
  /** Whether there are sessions to sign up for. */
  sessions: z.boolean(),
  mayWithdraw: z.boolean(),
});
export type PublicOrder = z.infer<typeof publicOrder>;

export const registrationContract = contract({
  'POST /api/events/:id/orders': {
    summary: 'Register somebody on the phone or at the desk; to be paid later',
    who: ['unit lead'],
    params: idParams,
    body: staffOrderBody,
    response: z.object({ orderId: id, standing: standingOfOrder, total: amount }),
  },
  'POST /api/events/:id/orders/what-if': {
    summary: 'What registering somebody would come to, and whether there is room; nothing is done',
    who: ['unit lead'],
    ownTransactions: true,
    params: idParams,
    body: staffOrderBody,
    response: z.object({ standing: standingOfOrder, total: amount }),
  },
  'GET /api/public/frame': {
    summary: "The organization's name and clock for public pages",
    who: 'public',
    response: publicFrame,
  },
  'GET /api/public/events': {
    summary: 'Events that are listed, narrowed as asked; those to come unless others are asked for',
    who: 'public',
    query: listingQuery,
    response: publicListing,
  },
  'GET /api/public/calendar.ics': {
    summary: 'The same as a calendar file to subscribe to: coming ones and those of the last two months',
    who: 'public',
    query: filter,
    response: { file: 'text/calendar' },
  },
  'GET /api/public/previews/:token': {
    summary: 'The page of an event as it would be public, by the link of its team',
    who: 'public',
    params: token,
    response: publicEvent,
  },
  'GET /api/public/events/:slug': {
    summary: 'One event as the public sees it',
    who: 'public',
    params: z.object({ slug: z.string() }),
    query: z.object({
      /** The link of an invitation, for whoever comes by one. */
      invited: z.string().max(100).default(''),
    }),
    response: publicEvent,
  },
  'GET /api/public/events/:slug/calendar.ics': {
    summary: 'The event as a calendar file',
    who: 'public',
    params: z.object({ slug: z.string() }),
    response: { file: 'text/calendar' },
  },
  'POST /api/public/events/:slug/question': {
    summary: 'Write to whoever organizes an event, whose address is not told',
    who: 'public',
    params: z.object({ slug: z.string() }),
    body: z.object({
      name: z.string().trim().min(1, code('name-needed')).max(120),
      email: z.string().trim().max(254),
      words: z.string().trim().min(5, code('words-needed')).max(2000),
    }),
    response: z.object({ done: z.literal(true) }),
  },
  'POST /api/public/events/:slug/files': {
    summary:
      'A file that answers a question, of at most 4 MB; one that no order names within a day is let go of',
    who: 'public',
    limit: '6mb',
    params: z.object({ slug: z.string() }),
    body: z.object({
      name: z.string().trim().min(1, code('name-needed')).max(200),
      content: z.base64().min(1),
    }),
    response: z.object({ id, name: z.string() }),
  },
  'POST /api/public/events/:slug/orders': {
    summary:
      'Register a party: seats are held while paying, confirmed when free, waitlisted when full; of a series for several dates at once, all or none',
    who: 'public',
    params: z.object({ slug: z.string() }),
    body: publicOrderBody,
    response: orderPlaced,
  },
  'POST /api/public/events/:slug/code': {
    summary: 'What a code does at an event; tried too often it is refused for a while',
    who: 'public',
    params: z.object({ slug: z.string() }),
    body: z.object({ code: z.string().trim().max(60) }),
    response: enteredCode,
  },
  'GET /api/public/orders/:token': {
    summary: 'An order as its buyer sees it',
    who: 'public',
    params: token,
    response: publicOrder,
  },
  'POST /api/public/orders/:token/pay': {
    summary: 'Pay what is due by card',
    who: 'public',
    ownTransactions: true,
    params: token,
    body: typedCard,
    response: payOutcome,
  },
  'POST /api/public/orders/:token/pay/code': {
    summary: 'Hands on the code that the bank wants before it pays',
    who: 'public',
    ownTransactions: true,
    params: token,
    body: bankCode,
    response: payOutcome,
  },
  'POST /api/public/orders/:token/take': {
    summary: 'Take offered seats',
    who: 'public',
    params: token,
    response: z.object({ standing: z.string() }),
  },
  'POST /api/public/orders/:token/withdraw': {
    summary: 'Withdraw some or all seats of an order',
    who: 'public',
    params: token,
    body: z.object({ seats: z.array(id).min(1, code('seats-needed')) }),
    response: z.object({ kept: amount, owed: amount }),
  },
  'POST /api/public/orders/:token/withdraw/what-if': {
    summary:
      'What would go back of what was paid, and what would be kept, if some seats were given up; nothing is done',
    who: 'public',
    ownTransactions: true,
    params: token,
    body: z.object({ seats: z.array(id).min(1, code('seats-needed')) }),
    response: z.object({ kept: amount, owed: amount }),
  },
  'PATCH /api/public/orders/:token/seats/:seat': {
    summary: 'Name a guest later, correct a name, change answers; another name is another person',
    who: 'public',
    params: token.extend({ seat: id }),
    body: seatBody,
    response: z.object({ done: z.literal(true) }),
  },
  'PUT /api/public/orders/:token/answers': {
    summary: 'Change what was answered for the booking',
    who: 'public',
    params: token,
    body: z.object({ answers }),
    response: done,
  },
  'GET /api/public/orders/:token/passes.pdf': {
    summary: 'The passes of an order to print',
    who: 'public',
    params: token,
    response: { file: 'application/pdf' },
  },
  'GET /api/public/orders/:token/calendar.ics': {
    summary: 'The event as a calendar file with the manage link',
    who: 'public',
    params: token,
    response: { file: 'text/calendar' },
  },
});
