import { z } from 'zod';
import { wayKinds } from '#core/admission/admission.ts';
import { pageStyles, pageThemes } from '#core/events/look.ts';
import { priceKinds, pricings } from '#core/offers/offer.ts';
import { details } from '#core/questions/details.ts';
import { questionKinds } from '#core/questions/question.ts';
import { whenFull } from '#core/registration/capacity.ts';
import type { Doc } from '#core/text/types.ts';
import { isCalendarDate } from '#core/time/dates.ts';
import { shownAgenda } from './agenda.ts';
import { amount, currency, date, id, instant, texts } from './endpoint.ts';
import { kindMark } from './kinds.ts';
import { shownPicture } from './pictures.ts';
import { sketch } from './places.ts';

const publicOffer = z.object({
  id,
  name: z.string(),
  about: z.string(),
  french: z.object({ name: z.string(), about: z.string() }),
  pricing: z.enum(pricings),
  price: amount,
  least: amount,
  deposit: amount,
  prices: z.array(
    z.object({
      kind: z.enum(priceKinds),
      price: amount,
      untilLocal: z.string().nullable(),
      fromUnits: z.int().nullable(),
      mostUnits: z.int().nullable(),
    }),
  ),
  taxed: z.boolean(),
  seatsPerUnit: z.int(),
  leastPerOrder: z.int(),
  mostPerOrder: z.int(),
  mostPerPerson: z.int().nullable(),
  opensLocal: z.string().nullable(),
  closesLocal: z.string().nullable(),
  hidden: z.boolean(),
  fromAge: z.int().nullable(),
  toAge: z.int().nullable(),
  online: z.boolean(),
  /** Whether the birth date of whoever takes it is asked. */
  asksAge: z.boolean(),
  /** Units still to be had; null when nothing limits them. */
  left: z.int().nullable(),
});
export type PublicOffer = z.infer<typeof publicOffer>;
const publicExtra = z.object({
  id,
  name: z.string(),
  about: z.string(),
  french: z.object({ name: z.string(), about: z.string() }),
  price: amount,
  taxed: z.boolean(),
  mostPerOrder: z.int(),
  /** How many are left; null when nothing limits them. */
  left: z.int().nullable(),
  options: z.array(z.object({ id, name: z.string(), french: z.string(), left: z.int().nullable() })),
});
export type PublicExtra = z.infer<typeof publicExtra>;
/** What a code does, told to whoever knows it. */
export const enteredCode = z.object({
  id,
  code: z.string(),
  offerIds: z.array(id),
  opens: z.boolean(),
  off: z.union([z.object({ percent: z.int() }), z.object({ amount })]).nullable(),
  /** Whether whoever has it may register. */
  admits: z.boolean(),
  /** Offers that it shows. */
  offers: z.array(publicOffer),
});
export type EnteredCode = z.infer<typeof enteredCode>;
export const publicQuestion = z.object({
  id,
  offerId: id.nullable(),
  scope: z.enum(['order', 'attendee']),
  kind: z.enum(questionKinds),
  prompt: texts,
  help: texts,
  required: z.boolean(),
  choices: z.array(z.string()),
  /** As long as something else is answered so. */
  shownIf: z.object({ questionId: id, is: z.array(z.string()) }).nullable(),
  least: z.number().nullable(),
  most: z.number().nullable(),
  /** Which detail of somebody it asks for; null for anything else. */
  keeps: z.enum(details).nullable(),
});
export type PublicQuestion = z.infer<typeof publicQuestion>;
export const publicEvent = z.object({
  slug: z.string(),
  title: z.string(),
  subtitle: z.string(),
  summary: z.string(),
  description: z.custom<Doc>(),
  bannerId: id.nullable(),
  gallery: z.array(id),
  faqs: z.array(z.object({ id, question: texts, answer: texts })),
  buttons: z.array(z.object({ id, label: texts, address: z.string() })),
  /** What is said where every seat is taken, in words of the organization's own; empty for the usual. */
  fullWords: texts,
  /** Where people register, where that is not here. */
  registerAt: z.string().nullable(),
  /** Who people turn to; what is null is not told. */
  organizer: z
    .object({
      name: z.string(),
      email: z.string().nullable(),
      phone: z.string().nullable(),
      form: z.boolean(),
    })
    .nullable(),
  /** How near it is to the number of people it hopes for; null without a goal. */
  goal: z.object({ reached: z.int(), next: z.int(), after: z.int().nullable() }).nullable(),
  look: z.object({ style: z.enum(pageStyles), theme: z.enum(pageThemes) }),
  /** What search engines are told, where that differs from the page. */
  search: z.object({ title: z.string(), text: z.string() }),
  /** Every picture of the page, those in its text too. */
  pictures: z.array(shownPicture),
  /** The same in French, as far as it is there; null where nothing is. */
  french: z
    .object({ title: z.string(), subtitle: z.string(), summary: z.string(), description: z.custom<Doc>() })
    .nullable(),
  category: z.string(),
  draws: z.array(z.string()),
  /** The mark of its kind; null where that has none. */
  mark: kindMark.nullable(),
  /** French names of its kind and its draws, by their names. */
  inFrench: z.record(z.string(), z.string()),
  unit: z.string().nullable(),
  /** The logo of the unit. */
  logo: shownPicture.nullable(),
  state: z.enum(['open', 'closed', 'wrapped', 'called off']),
  startsLocal: z.string().nullable(),
  endsLocal: z.string().nullable(),
  doorsLocal: z.string().nullable(),
  startsAt: instant.nullable(),
  endsAt: instant.nullable(),
  zone: z.string(),
  place: z
    .object({
      name: z.string(),
      address: z.string(),
      access: z.string(),
      latitude: z.number().nullable(),
      longitude: z.number().nullable(),
      /** Among the pictures of the page. */
      pictureId: id.nullable(),
      /** What is around it, as far as the gazetteer knows; null where it knows nothing. */
      sketch: sketch.nullable(),
    })
    .nullable(),
  registration: z.enum(['open', 'full', 'closed']),
  closesAt: instant.nullable(),
  offers: z.array(publicOffer),
  extras: z.array(publicExtra),
  /** What prices are in. */
  currency,
  taxes: z.array(z.object({ name: z.string(), rate: z.int(), included: z.boolean() })),
  /** What goes back of a seat that is given up, the earliest first; empty: everything. */
  refunds: z.array(z.object({ until: z.string().nullable(), days: z.int(), percent: z.int() })),
  /** The day until which whoever books now pays what is not paid with the booking; null without a date. */
  restBy: date.nullable(),
  /** Whether there are codes that one can enter. */
  codes: z.boolean(),
  /** Whether whoever asks may register now, and else who may. */
  admission: z.object({
    may: z.boolean(),
    /** Nobody has to register. */
    noReply: z.boolean(),
    /** Whether the organizer accepts people. */
    accepts: z.boolean(),
    /** Whether signing in could help. */
    signIn: z.boolean(),
    /** Single seats that cost them nothing. */
    guest: z.int(),
    /** How many seats they can take at most, where they may only because they are invited. */
    most: z.int().nullable(),
    /** Who may, and when, where whoever asks may not. */
    ways: z.array(
      z.object({
        kind: z.enum(wayKinds),
        why: z.enum(['not theirs', 'not yet', 'over']),
        units: z.array(z.string()),
        opensLocal: z.string().nullable(),
      }),
    ),
  }),
  /** What is known of whoever asks and is signed in: whether they are a member on the day, and what they have already. */
  you: z
    .object({
      member: z.boolean(),
      has: z.array(z.object({ offerId: id, units: z.int() })),
      person: z.object({ given: z.string(), family: z.string(), email: z.string() }),
      /** Themselves, first, and those of their household; when somebody was born only of themselves and their children. */
      people: z.array(
        z.object({
          contactId: id,
          given: z.string(),
          family: z.string(),
          birthDate: z.string().nullable(),
          hasBirthDate: z.boolean(),
        }),
      ),
    })
    .nullable(),
  /** Now, by the clock where it is. */
  nowLocal: z.string(),
  questions: z.array(publicQuestion),
  needsBirthDate: z.boolean(),
  /** Seats of the whole event still to be had; null when nothing limits them. */
  seatsLeft: z.int().nullable(),
  /** Whether one can take part online; the same of the seats there. */
  online: z.boolean(),
  /** Whether it is the room that limits them. */
  ofRoom: z.boolean(),
  onlineLeft: z.int().nullable(),
  whenFull: z.enum(whenFull),
  openShifts: z.int(),
  /** The address of its call for volunteers, where one is open. */
  help: z.string().nullable(),
  /** Whether one can hear of it without a seat: there are lines for those who do. */
  follow: z.boolean(),
  /** Whether it has a board of questions and answers. */
  board: z.boolean(),
  agenda: shownAgenda,
  /** The series it is a date of: how often it takes place, and other dates one can register for; null without. */
  series: z
    .object({
      said: z.object({ en: z.string(), fr: z.string() }),
      dates: z.array(
        z.object({
          slug: z.string(),
          startsLocal: z.string(),
          endsLocal: z.string().nullable(),
          registration: z.enum(['open', 'full', 'closed']),
        }),
      ),
    })
    .nullable(),
  funds: z.array(z.object({ id, name: z.string() })),
  /** Pages where one can give without coming. */
  giving: z.array(
    z.object({ slug: z.string(), title: texts, goal: z.int().nullable(), given: z.int(), currency }),
  ),
});
export type PublicEvent = z.infer<typeof publicEvent>;
export const publicFrame = z.object({
  organization: z.object({
    name: z.string(),
    about: z.string(),
    currency: z.string(),
    zone: z.string(),
    country: z.string(),
    clock: z.union([z.literal(12), z.literal(24)]),
    logo: shownPicture.nullable(),
  }),
  /** The day it is for the organization. */
  today: date,
  demo: z.boolean(),
});
export type PublicFrame = z.infer<typeof publicFrame>;
/** What the public's calendar is narrowed to; what is empty leaves everything. */
export const filter = z.object({
  q: z.string().max(200).default(''),
  with: z.string().max(60).default(''),
  unit: z.string().max(120).default(''),
  place: z.string().max(200).default(''),
  price: z.enum(['', 'free', 'paid']).default(''),
  /** `1`: only where seats are to be had. */
  open: z.enum(['', '1']).default(''),
});
const dayOrNone = z
  .string()
  .refine((day) => day === '' || isCalendarDate(day), 'no-such-date')
  .default('');
export const listingQuery = filter.extend({
  from: dayOrNone,
  to: dayOrNone,
  hide: z.enum(['ended', 'begun', 'none']).default('ended'),
  sort: z.enum(['date', 'title']).default('date'),
  offset: z.coerce.number().int().min(0).max(100_000).default(0),
  limit: z.coerce.number().int().min(1).max(300).default(60),
});
export const listedEvent = publicEvent
  .pick({
    slug: true,
    title: true,
    summary: true,
    category: true,
    draws: true,
    mark: true,
    inFrench: true,
    unit: true,
    startsLocal: true,
    endsLocal: true,
    startsAt: true,
    endsAt: true,
    zone: true,
    registration: true,
    state: true,
  })
  .extend({
    french: z.object({ title: z.string(), summary: z.string() }).nullable(),
    place: z.string().nullable(),
    /** The venue, without the room. */
    venue: z.string().nullable(),
    /** What prices are in. */
    currency,
    lowest: amount.nullable(),
    highest: amount.nullable(),
    picture: shownPicture.nullable(),
  });
export type ListedEvent = z.infer<typeof listedEvent>;
export const publicListing = z.object({
  events: z.array(listedEvent),
  total: z.int(),
  more: z.boolean(),
  /** What it can be narrowed to: what there is among all events that are to come. */
  kinds: z.array(z.string()),
  draws: z.array(z.string()),
  units: z.array(z.string()),
  places: z.array(z.string()),
  /** French names of kinds and draws. */
  inFrench: z.record(z.string(), z.string()),
});
export type PublicListing = z.infer<typeof publicListing>;
