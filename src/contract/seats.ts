import { z } from 'zod';
import { attendanceStates } from '#core/doors/attendance.ts';
import { nameTagFormats } from '#core/print/nameTags.ts';
import { questionKinds } from '#core/questions/question.ts';
import { registrationStates } from '#core/registration/states.ts';
import { waiverStandings } from '#core/waivers/needs.ts';
import { amount, contract, date, done, id, idParams, instant, token } from './endpoint.ts';
import { whoGets } from './mailings.ts';
import { condition } from './narrowing.ts';
import { answerValue, tenths } from './registration.ts';

/** One seat as staff see it in their table. What belongs to its whole order stands on each of its seats. */
const registrationRow = z.object({
  id,
  orderId: id,
  orderNumber: z.int(),
  contactId: id.nullable(),
  given: z.string(),
  family: z.string(),
  /** Where they are reached: as guests, by their record, or as whoever booked. */
  email: z.string().nullable(),
  phone: z.string().nullable(),
  buyer: z.string(),
  buyerEmail: z.string().nullable(),
  offer: z.string(),
  offerId: id,
  extras: z.array(z.string()),
  sessions: z.array(z.string()),
  state: z.enum(registrationStates),
  attendance: z.enum(attendanceStates).nullable(),
  arrivedAt: instant.nullable(),
  waiver: z.enum(waiverStandings),
  due: amount,
  received: amount,
  balance: amount,
  /** The link they came through; null for none of them. */
  source: z.string().nullable(),
  /** What was answered, by question. */
  answers: z.record(
    z.string(),
    z.object({ value: answerValue, file: z.object({ id, name: z.string() }).nullable() }),
  ),
  /** True where something about their health can be read, which is written down. */
  care: z.boolean(),
  linkReasons: z.array(z.string()),
  walkIn: z.boolean(),
  /** Whether who sits there paid for it themselves, as whoever booked says: a receipt for it is theirs. */
  paysOwn: z.boolean(),
  since: instant,
  queuePlace: z.int().nullable(),
  offeredUntil: instant.nullable(),
});
export type RegistrationRow = z.infer<typeof registrationRow>;

/** A question as a column of the table. */
const askedColumn = z.object({
  id,
  prompt: z.string(),
  kind: z.enum(questionKinds),
  scope: z.enum(['order', 'attendee']),
  choices: z.array(z.string()),
  onNameTag: z.boolean(),
});
export type AskedColumn = z.infer<typeof askedColumn>;

const seatFilter = z.object({
  q: z.string().max(200).default(''),
  conditions: z.array(condition).max(20).default([]),
});
/** The same in an address: as JSON; empty for every seat. */
const filterInAddress = z
  .string()
  .max(8000)
  .default('')
  .transform((text, at) => {
    if (!text) return { q: '', conditions: [] };
    try {
      const read = seatFilter.safeParse(JSON.parse(text));
      if (read.success) return read.data;
    } catch {
      // Said below.
    }
    at.addIssue({ code: 'custom', message: 'filter-unreadable' });
    return z.NEVER;
  });

const seatView = z.object({
  id,
  name: z.string(),
  /** Seen by the whole team, or only by who made it. */
  shared: z.boolean(),
  mine: z.boolean(),
  filter: seatFilter,
});
export type SeatView = z.infer<typeof seatView>;

const source = z.object({
  id,
  name: z.string(),
  /** The address to give out. */
  link: z.string(),
  stopped: z.boolean(),
  /** How often the page was looked at and a booking begun, how many booked, and how many seats stand. */
  seen: z.int(),
  begun: z.int(),
  orders: z.int(),
  seats: z.int(),
});
export type Source = z.infer<typeof source>;

const brought = z.object({
  /** A table of people with headings. */
  content: z.base64().min(1),
  /** The ticket each of them gets. */
  offerId: id,
});
/** What becomes of the rows of a table of people who are registered by it. */
const broughtIn = z.object({
  confirmed: z.int(),
  waitlisted: z.int(),
  /** Who holds a seat already, or stands in the table twice, by name. */
  already: z.array(z.string()),
  /** Contacts that are made for it. */
  made: z.int(),
  /** What comes to be paid by all of them. */
  total: amount,
  rejected: z.array(z.object({ line: z.int(), why: z.string() })),
});
export type BroughtIn = z.infer<typeof broughtIn>;

const seatIds = z.array(id).min(1, 'choose-somebody').max(2000);
const givingUp = z.object({
  seatIds,
  reason: z.string().trim().max(300).default(''),
  /** How much of what was paid goes back: by the terms of the event, or otherwise. */
  back: z.enum(['terms', 'all', 'nothing']).default('terms'),
});
/** What giving seats up brings about. */
const givenUp = z.object({
  seats: z.int(),
  orders: z.int(),
  kept: amount,
  owed: amount,
  /** Who is offered seats that come free. */
  offered: z.array(z.string()),
  /** Who keeps theirs, by name, with why. */
  left: z.array(z.object({ name: z.string(), why: z.string() })),
});
export type GivenUp = z.infer<typeof givenUp>;

const moving = z.object({
  seatIds,
  /** To another offer of the event. */
  offerId: id.nullable().default(null),
  /** Or to another date; whole bookings go. */
  eventId: id.nullable().default(null),
});
const movedSeats = z.object({
  seats: z.int(),
  /** What is more to pay, and what is owed back, in all. */
  more: amount,
  back: amount,
  kept: amount,
  left: z.array(z.object({ name: z.string(), why: z.string() })),
});
export type MovedSeats = z.infer<typeof movedSeats>;

/** Which seats are printed: those chosen, or all that a filter leaves. */
const printed = z.object({
  seatIds: z.array(id).max(20_000).nullable().default(null),
  only: seatFilter.default({ q: '', conditions: [] }),
});

const letter = z.object({
  seatIds,
  subject: z.string().trim().max(200),
  body: z.string().trim().max(20_000),
});

export const seatsContract = contract({
  'GET /api/events/:id/registrations': {
    summary: 'Every seat of an event with its person, state, waiver, money and answers',
    who: 'staff',
    params: idParams,
    response: z.object({
      capacity: z.int().nullable(),
      questions: z.array(askedColumn),
      rows: z.array(registrationRow),
      waiting: z.array(
        z.object({
          orderId: id,
          name: z.string(),
          seats: z.int(),
          since: instant,
          fits: z.string(),
          odds: tenths.nullable(),
        }),
      ),
    }),
  },
  'GET /api/events/:id/registrations.csv': {
    summary: 'The registrations of an event as CSV, narrowed as asked; money stands once for each order',
    who: ['coordinator', 'unit lead', 'treasurer'],
    params: idParams,
    query: z.object({ only: filterInAddress }),
    response: { file: 'text/csv' },
  },
  'GET /api/events/:id/answers/files/:file': {
    summary: 'A file that somebody answered a question with',
    who: 'staff',
    params: z.object({ id, file: id }),
    response: { file: 'application/octet-stream' },
  },
  'GET /api/events/:id/registration-views': {
    summary: 'Views of the seats of an event: one’s own and the team’s',
    who: 'staff',
    params: idParams,
    response: z.array(seatView),
  },
  'POST /api/events/:id/registration-views': {
    summary: 'Keep a view of the seats under a name; the same name again changes it',
    who: 'staff',
    params: idParams,
    body: z.object({
      name: z.string().trim().min(1, 'view-unnamed').max(60),
      shared: z.boolean().default(false),
      filter: seatFilter,
    }),
    response: z.object({ id }),
  },
  'DELETE /api/events/:id/registration-views/:view': {
    summary: 'Throw a view of the seats away',
    who: 'staff',
    params: z.object({ id, view: id }),
    response: done,
  },
  'POST /api/events/:id/registrations/import': {
    summary:
      'Register the people of a table, each as the contact they are; who holds a seat already is passed over',
    who: ['unit lead'],
    limit: '6mb',
    ownTransactions: true,
    params: idParams,
    body: brought,
    response: broughtIn,
  },
  'POST /api/events/:id/registrations/import/what-if': {
    summary: 'What registering the people of a table would come to; nothing is done',
    who: ['unit lead'],
    limit: '6mb',
    ownTransactions: true,
    params: idParams,
    body: brought,
    response: broughtIn,
  },
  'POST /api/registrations/:id/withdraw': {
    summary: 'Withdraw one seat for its holder; freed seats go to the waitlist',
    who: ['unit lead'],
    params: idParams,
    body: givingUp.omit({ seatIds: true }),
    response: z.object({ offered: z.array(z.string()), kept: amount, owed: amount }),
  },
  'POST /api/events/:id/seats/withdraw': {
    summary: 'Withdraw several seats at once; whoever has come, and what is gone already, is left',
    who: ['unit lead'],
    limit: '6mb',
    params: idParams,
    body: givingUp,
    response: givenUp,
  },
  'POST /api/events/:id/seats/withdraw/what-if': {
    summary: 'What withdrawing several seats would bring about; nothing of it is done',
    who: ['unit lead'],
    limit: '6mb',
    ownTransactions: true,
    params: idParams,
    body: givingUp,
    response: givenUp,
  },
  'POST /api/events/:id/seats/move': {
    summary:
      'Move seats to another offer, or bookings to another date; what is more is to be paid, what is less goes back',
    who: ['unit lead'],
    limit: '6mb',
    params: idParams,
    body: moving,
    response: movedSeats,
  },
  'POST /api/events/:id/seats/move/what-if': {
    summary: 'What moving them would bring about; nothing of it is done',
    who: ['unit lead'],
    limit: '6mb',
    ownTransactions: true,
    params: idParams,
    body: moving,
    response: movedSeats,
  },
  'POST /api/events/:id/letters/preview': {
    summary: 'Who of some seats would get a letter, who would not and why, and how the first of them gets it',
    who: ['unit lead'],
    limit: '6mb',
    ownTransactions: true,
    params: idParams,
    body: letter,
    response: whoGets,
  },
  'POST /api/events/:id/letters': {
    summary: 'Write to those on some seats: one copy for each address, at once',
    who: ['unit lead'],
    limit: '6mb',
    params: idParams,
    body: letter.extend({
      /** How many copies were announced; another number by now sends nothing. */
      expect: z.int(),
    }),
    response: z.object({ planned: z.int(), leftOut: z.int() }),
  },
  'POST /api/events/:id/tasks': {
    summary: 'Set a task about those on some seats, one for each, for whoever sets it',
    who: ['unit lead'],
    limit: '6mb',
    params: idParams,
    body: z.object({
      seatIds,
      text: z.string().trim().min(1, 'nothing-written').max(2000),
      dueOn: date,
    }),
    response: z.object({ tasks: z.int(), left: z.array(z.string()) }),
  },
  'POST /api/orders/:id/offer': {
    summary: 'Offer free seats to a waiting party; before others who wait longer only with a reason',
    who: ['unit lead'],
    params: idParams,
    body: z.object({ reason: z.string().trim().max(300).default('') }),
    response: z.object({ until: instant }),
  },
  'GET /api/events/:id/sources': {
    summary:
      'The links that were given out for an event, with who came through which, from looking at the page to a seat',
    who: 'staff',
    params: idParams,
    response: z.object({
      sources: z.array(source),
      /** Those who came through none of them. */
      others: source.pick({ seen: true, begun: true, orders: true, seats: true }),
    }),
  },
  'POST /api/events/:id/sources': {
    summary: 'Make a link of its own for a poster, a newsletter, a partner; the same name is the same link',
    who: ['unit lead'],
    params: idParams,
    body: z.object({ name: z.string().trim().min(1, 'source-unnamed').max(60) }),
    response: z.object({ id, link: z.string() }),
  },
  'DELETE /api/events/:id/sources/:source': {
    summary: 'Count a link no more; it goes on leading to the event',
    who: ['unit lead'],
    params: z.object({ id, source: id }),
    response: done,
  },
  'POST /api/public/events/:slug/seen': {
    summary: 'The page was looked at, or a booking begun: counted by link and day, nothing of whoever did',
    who: 'public',
    params: z.object({ slug: z.string() }),
    body: z.object({ step: z.enum(['seen', 'begun']), from: z.string().max(20).default('') }),
    response: done,
  },
  'POST /api/events/:id/name-tags.pdf': {
    summary: 'Name tags to print, for the seats asked for',
    who: ['coordinator', 'unit lead'],
    limit: '6mb',
    params: idParams,
    body: printed.extend({
      format: z.enum(nameTagFormats).default('four'),
      pictureId: id.nullable().default(null),
      /** What stands on them beside the name: answers by their question; `offer`, `code`. */
      lines: z.array(z.string().max(60)).max(60).default([]),
    }),
    response: { file: 'application/pdf' },
  },
  'POST /api/events/:id/door-list.pdf': {
    summary: 'A list to print for the door, by last name, to tick by hand where nothing else works',
    who: ['coordinator', 'unit lead'],
    limit: '6mb',
    params: idParams,
    body: printed,
    response: { file: 'application/pdf' },
  },
  'GET /api/orders/:id/confirmation.pdf': {
    summary: 'What was booked and what it comes to, on a page to print or hand over',
    who: ['coordinator', 'unit lead', 'treasurer'],
    params: idParams,
    response: { file: 'application/pdf' },
  },
  'GET /api/public/orders/:token/confirmation.pdf': {
    summary: 'The same, for whoever booked',
    who: 'public',
    params: token,
    response: { file: 'application/pdf' },
  },
});
