import { z } from 'zod';
import { visibilities } from '#core/access/visitor.ts';
import { wayKinds } from '#core/admission/admission.ts';
import { replyRules } from '#core/admission/invitation.ts';
import { isShiftColumn } from '#core/crew/narrowing.ts';
import { countedOf } from '#core/doors/counting.ts';
import { eventTimes } from '#core/events/dated.ts';
import { pageStyles, pageThemes } from '#core/events/look.ts';
import { type PlanField, partOf } from '#core/events/parts.ts';
import { audienceNames, audiences } from '#core/messages/audiences.ts';
import { channels } from '#core/messages/channels.ts';
import { lateRules, offsetLimits } from '#core/messages/lines.ts';
import { momentRule, moments } from '#core/messages/moments.ts';
import { priceKinds, pricings } from '#core/offers/offer.ts';
import { details } from '#core/questions/details.ts';
import { questionKinds, readers } from '#core/questions/question.ts';
import { whenFull } from '#core/registration/capacity.ts';
import { waitRules } from '#core/registration/waitlist.ts';
import { cleanDoc, docOf } from '#core/text/doc.ts';
import type { Doc } from '#core/text/types.ts';
import { call, sessions, speakers, sponsors, tracks } from './agenda.ts';
import { currency, id, instant, price, text, texts, wallTime } from './endpoint.ts';
import { condition } from './narrowing.ts';
import { surveyPlan } from './surveyPlan.ts';

const atWall = wallTime.nullable().default(null);
const percent = z.int('not-whole').min(1, 'percent-out-of-range').max(100_000, 'percent-out-of-range');
const age = z.int('not-whole').min(0, 'zero-or-more').max(120).nullable().default(null);
const offer = z.object({
  id,
  name: text(80).trim().min(1, 'ticket-unnamed'),
  about: text(300).default(''),
  pricing: z.enum(pricings).default('fixed'),
  price,
  /** The least that is paid, where one pays what one can. */
  least: price.default(0),
  /** What is paid with the booking, of one with a deposit. */
  deposit: price.default(0),
  prices: z
    .array(
      z.object({
        kind: z.enum(priceKinds),
        price,
        untilLocal: atWall,
        fromUnits: z.int('not-whole').min(2, 'two-or-more').max(1000).nullable().default(null),
        mostUnits: z.int('not-whole').min(1, 'at-least-one-or-none').max(1000).nullable().default(null),
      }),
    )
    .max(6)
    .default([]),
  taxed: z.boolean().default(true),
  /** What somebody gets for the price of one: that part of it is no gift. */
  valueReceived: price.default(0),
  leastPerOrder: z.int('not-whole').min(1, 'at-least-one').max(100).default(1),
  mostPerPerson: z.int('not-whole').min(1, 'at-least-one-or-none').max(1000).nullable().default(null),
  opensLocal: atWall,
  closesLocal: atWall,
  hidden: z.boolean().default(false),
  fromAge: age,
  toAge: age,
  quantity: z.int().min(1, 'at-least-one-or-none').max(100_000).nullable().default(null),
  seatsPerUnit: z.int().min(1).max(50).default(1),
  mostPerOrder: z.int().min(1).max(100).default(10),
  /** Whether its seats are in the online room. */
  online: z.boolean().default(false),
  french: z.object({ name: text(80), about: text(300) }).default({ name: '', about: '' }),
});
export type Offer = z.infer<typeof offer>;
const extra = z.object({
  id,
  name: text(80).trim().min(1, 'extra-unnamed'),
  about: text(300).default(''),
  french: z.object({ name: text(80), about: text(300) }).default({ name: '', about: '' }),
  price,
  taxed: z.boolean().default(true),
  valueReceived: price.default(0),
  /** A chance to win something, as a raffle ticket is: no part of it can be receipted. */
  chance: z.boolean().default(false),
  quantity: z.int('not-whole').min(1, 'at-least-one-or-none').max(100_000).nullable().default(null),
  mostPerOrder: z.int('not-whole').min(1, 'at-least-one').max(100).default(10),
  options: z
    .array(
      z.object({
        id,
        name: text(60).trim().min(1, 'option-unnamed'),
        french: text(60).default(''),
        quantity: z.int('not-whole').min(1, 'at-least-one-or-none').max(100_000).nullable().default(null),
      }),
    )
    .max(30)
    .default([]),
});
export type Extra = z.infer<typeof extra>;
const code = z.object({
  id,
  code: text(40).trim().min(1, 'code-empty'),
  /** What it is for, as the team reads it. */
  note: text(200).default(''),
  offerIds: z.array(id).max(30).default([]),
  opens: z.boolean().default(false),
  off: z
    .union([z.object({ percent }), z.object({ amount: price.min(1, 'at-least-one') })])
    .nullable()
    .default(null),
  fromLocal: atWall,
  untilLocal: atWall,
  most: z.int('not-whole').min(1, 'at-least-one-or-none').max(1_000_000).nullable().default(null),
  mostPerPerson: z.int('not-whole').min(1, 'at-least-one-or-none').max(1000).nullable().default(null),
});
export type Code = z.infer<typeof code>;
const tax = z.object({
  id,
  name: text(40).trim().min(1, 'tax-unnamed'),
  rate: percent,
  included: z.boolean().default(false),
});
export type Tax = z.infer<typeof tax>;
/** What follows from a change; `Consequences` of core. */
export const consequences = z.object({
  messages: z.array(
    z.object({
      line: z.string(),
      fate: z.enum(['moved', 'held back']),
      count: z.int(),
      from: instant.nullable(),
      to: instant.nullable(),
      why: z.string().nullable(),
    }),
  ),
  shifts: z.array(
    z.object({
      role: z.string(),
      from: z.object({ startsLocal: z.string(), endsLocal: z.string() }).nullable(),
      to: z.object({ startsLocal: z.string(), endsLocal: z.string() }),
    }),
  ),
  letGo: z.array(z.object({ name: z.string(), seats: z.int() })),
  reopened: z.array(z.string()),
  offered: z.array(z.string()),
});
const limit = z.number().min(-1_000_000_000).max(1_000_000_000).nullable().default(null);
export const question = z.object({
  id,
  offerId: id.nullable().default(null),
  scope: z.enum(['order', 'attendee']).default('attendee'),
  kind: z.enum(questionKinds),
  prompt: texts,
  /** What is said below it. */
  help: texts.default({ en: '' }),
  required: z.boolean().default(false),
  choices: z.array(text(200)).max(50).default([]),
  shownIf: z
    .object({ questionId: id, is: z.array(z.string().max(200)).max(50) })
    .nullable()
    .default(null),
  least: limit,
  most: limit,
  /** What of a contact it asks for: a detail, or the id of a field of one's own. */
  keeps: z
    .union([z.enum(details), id])
    .nullable()
    .default(null),
  seenBy: z.enum(readers).default('organizers'),
  /** Only who may read about health reads it; deleted after the event. */
  sensitive: z.boolean().default(false),
});
export type QuestionPlan = z.infer<typeof question>;
/** Formatted text: whatever comes is brought to what a document may hold; plain text becomes its paragraphs. */
const doc = z
  .custom<Doc | string>((value) => typeof value === 'string' || (typeof value === 'object' && value !== null))
  .transform((value) => (typeof value === 'string' ? docOf(value) : cleanDoc(value)));
/** How far from its moment a line lies. Both parts go the same way: before stays before. */
const offset = (most: number) => z.int().min(-most, 'offset-too-far').max(most, 'offset-too-far');
/** What a message says, in both languages. */
export const saidShape = {
  subject: texts,
  /** What a mailbox shows behind the subject; the beginning of the text where it is empty. */
  preview: texts.default({ en: '' }),
  /** The plain text; of one that is formatted, empty where it is made from that. */
  body: texts,
  formatted: z
    .object({ en: doc.nullable().default(null), fr: doc.nullable().default(null) })
    .default({ en: null, fr: null }),
  /** The English that the French was written for, in short: where it is another by now, the French lags behind. Empty where nobody knows. */
  frenchOf: text(20).default(''),
};
/** When a line goes out and how, whatever it is a line of. */
export const lineShape = {
  id,
  name: text(80).min(1, 'line-unnamed'),
  offsetDays: offset(offsetLimits.days),
  offsetMinutes: offset(offsetLimits.minutes),
  usefulMinutes: z
    .int()
    .min(1)
    .max(60 * 24 * offsetLimits.days, 'offset-too-far')
    .nullable()
    .default(null),
  workingDays: z.boolean().default(false),
  household: z.boolean().default(false),
  off: z.boolean().default(false),
};
/** Days and minutes count the same way. */
export const oneWay = (line: { offsetDays: number; offsetMinutes: number }): boolean =>
  line.offsetDays * line.offsetMinutes >= 0;
export const messageLine = z
  .object({
    ...lineShape,
    moment: z.enum(moments),
    channel: z.enum(channels).default('email'),
    audience: z.enum(audienceNames),
    late: z.enum(lateRules).default('skip'),
    narrowed: z.array(condition).max(10).default([]),
    ...saidShape,
  })
  .refine(oneWay, { path: ['offsetMinutes'], error: 'offset-both-ways' })
  .refine((line) => momentRule(line.moment).audiences.includes(line.audience), {
    path: ['audience'],
    error: 'audience-elsewhere',
  })
  .refine(
    ({ narrowed, audience }) => {
      const { narrowedBy } = audiences[audience];
      if (narrowedBy === 'shifts') return narrowed.every((c) => isShiftColumn(c.column));
      return !narrowed.length || narrowedBy !== null;
    },
    { path: ['narrowed'], error: 'not-narrowed' },
  );
export type MessageLinePlan = z.infer<typeof messageLine>;
/** Something the public reads in both languages, as long as it may be. */
const said = (most: number) => z.object({ en: text(most), fr: text(most).optional() });

/** What the public reads, in French. */
const french = z.object({
  publicTitle: text(120),
  subtitle: text(160),
  summary: text(300),
  description: doc,
});
export type French = z.infer<typeof french>;

const seats = z.int('not-whole').min(1, 'at-least-one-or-none').max(100_000, 'at-most-100000').nullable();

/** What can be written on a plan. Every field can be saved alone, as typed. */
export const eventPlan = z.object({
  slug: z.string().max(200).nullable(),
  publicTitle: text(120),
  teamTitle: text(120),
  subtitle: text(160),
  summary: text(300),
  description: doc,
  french,
  bannerId: id.nullable(),
  gallery: z.array(id).max(24, 'gallery-full'),
  faqs: z.array(z.object({ id, question: said(300), answer: said(2000) })).max(40),
  buttons: z.array(z.object({ id, label: said(60), address: z.string().trim().max(2000) })).max(6),
  afterwards: said(2000),
  fullWords: said(300),
  registerAt: z.string().trim().max(2000).nullable(),
  /** Who people turn to: by a form that does not tell the address, or with name, email and telephone shown. */
  organizer: z
    .object({
      how: z.enum(['form', 'shown']),
      name: text(120),
      email: z.string().trim().max(254),
      phone: z.string().trim().max(40),
    })
    .nullable(),
  /** Files and links for the day; only who holds a seat reads them. */
  dayFiles: z
    .array(
      z.object({
        id,
        label: said(120),
        address: z.string().trim().max(2000).nullable(),
        fileId: id.nullable(),
      }),
    )
    .max(20),
  /** Numbers of people to reach, one after the other. */
  goal: z.array(z.int('not-whole').min(1, 'at-least-one').max(100_000)).max(6),
  /** Funds a gift can go to with a booking. With none, no gift is asked for. */
  giftFunds: z.array(id).max(50),
  look: z.object({ style: z.enum(pageStyles), theme: z.enum(pageThemes) }),
  searchTitle: text(120),
  searchText: text(300),
  notes: text(5000),
  category: text(60),
  draws: z.array(text(60)).max(20),
  unitId: id.nullable(),
  /** Units it belongs to beside its own, whose leads see it among theirs. */
  partnerIds: z.array(id).max(20),
  visibility: z.enum(visibilities),
  listed: z.boolean(),
  startsLocal: wallTime.nullable(),
  endsLocal: wallTime.nullable(),
  doorsLocal: wallTime.nullable(),
  registrationClosesLocal: wallTime.nullable(),
  zone: z.string().max(60),
  /** Of whole days: it has dates and no times. */
  allDay: z.boolean(),
  /** Whether the public is told when it ends. */
  showEnd: z.boolean(),
  /** Of times that a clock change repeats: those meant the second time round. */
  secondTime: z.array(z.enum(eventTimes)).max(4),
  venueId: id.nullable(),
  /** A room of the place; null for the whole of it. */
  roomId: id.nullable(),
  /** How the room is set up, by its name in the register. */
  layout: text(60),
  /** Events it may share its place with. */
  beside: z.array(z.object({ id, title: text(200) })).max(40),
  capacity: seats,
  /** The room online, for who holds a seat there. */
  online: z.object({ link: z.string().trim().max(2000), instructions: said(1000) }).nullable(),
  onlineCapacity: seats,
  whenFull: z.enum(whenFull),
  waitRule: z.enum(waitRules),
  /** What clearance asks of it and the plan does not show: yes, no or how many. */
  facts: z
    .record(
      z.string().max(40),
      z.union([z.boolean(), z.int('not-whole').min(0, 'zero-or-more').max(100_000)]),
    )
    .refine((facts) => Object.keys(facts).length <= 60, 'too-many-facts'),
  /** Which waivers are asked, and of whom. */
  waivers: z
    .array(
      z.object({
        id,
        waiverId: id,
        seats: z.boolean().default(true),
        offerIds: z.array(id).max(50).default([]),
        sessionIds: z.array(id).max(100).default([]),
        answered: z
          .object({ questionId: id, is: z.array(z.string().max(200)).max(50) })
          .nullable()
          .default(null),
        fromAge: z.int('not-whole').min(0, 'zero-or-more').max(120).nullable().default(null),
        toAge: z.int('not-whole').min(0, 'zero-or-more').max(120).nullable().default(null),
        crew: z.boolean().default(false),
        roles: z.array(z.string().max(60)).max(50).default([]),
      }),
    )
    .max(12),
  /** How its doors are kept. */
  doors: z.object({
    /** Between its days people go home; else they stay over night. */
    goHome: z.boolean(),
    /** Children are handed over by the code of their booking, or to somebody who is named. */
    handover: z.boolean(),
    /** The most people who may be inside at once, crew and all; null where nothing says so. */
    most: z.int('not-whole').min(1, 'at-least-one-or-none').max(100_000).nullable(),
    /** Who gets a certificate of attendance: from which share of which minutes, in per cent; null where nobody does. */
    certificate: z
      .object({
        share: z.int('not-whole').min(1, 'at-least-one').max(100),
        of: z.enum(countedOf),
      })
      .nullable(),
  }),
  speakers,
  sponsors,
  tracks,
  sessions,
  call: call.nullable(),
  /** Who may register. */
  admission: z.object({
    ways: z
      .array(
        z.object({
          kind: z.enum(wayKinds),
          unitIds: z.array(id).max(30).default([]),
          opensLocal: atWall,
          closesLocal: atWall,
        }),
      )
      .max(12),
    noReply: z.boolean(),
    accepts: z.boolean(),
    /** What those invited are asked. */
    reply: z.enum(replyRules).default('yes or no'),
  }),
  /** What it is paid in (ISO 4217); null for the currency of the organization. */
  currency: currency.nullable(),
  offers: z.array(offer).max(30),
  extras: z.array(extra).max(30),
  codes: z.array(code).max(200),
  taxes: z.array(tax).max(4),
  /** What goes back of a seat that is given up: so many per cent until so many days before. Nothing said: everything. */
  refunds: z
    .array(
      z.object({
        days: z.int('not-whole').min(0, 'zero-or-more').max(365),
        percent: z.int('not-whole').min(0, 'zero-or-more').max(100),
      }),
    )
    .max(6),
  /** Days before it begins by which what is still owed for a booking is to be paid. */
  balanceDays: z.int('not-whole').min(0, 'zero-or-more').max(365),
  questions: z.array(question).max(60),
  /** Days before it begins until guests can be named and answers changed. */
  namesDays: z.int('not-whole').min(0, 'zero-or-more').max(365),
  /** Days after its end until sensitive answers are deleted. */
  forgetDays: z.int('not-whole').min(0, 'zero-or-more').max(3650),
  messages: z.array(messageLine).max(60),
  surveys: z.array(surveyPlan).max(8),
  /** What is counted at it, what was planned of it, when it can be counted, and towards which initiatives. */
  outcomes: z.object({
    measures: z
      .array(z.object({ measureId: id, planned: z.number().min(0, 'zero-or-more').max(1e9).nullable() }))
      .max(20),
    opensDays: z.int('not-whole').min(0, 'zero-or-more').max(365, 'within-a-year'),
    closesDays: z.int('not-whole').min(0, 'zero-or-more').max(365, 'within-a-year'),
    initiativeIds: z.array(id).max(20),
  }),
});
export type EventPlan = z.infer<typeof eventPlan>;

export const planFields = Object.keys(partOf) as [PlanField, ...PlanField[]];
