import { z } from 'zod';
import { attendanceStates } from '#core/doors/attendance.ts';
import {
  amount,
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
import { forOne, forSeats, hand, signing, waiverText } from './waivers.ts';

const doorRow = z.object({
  registrationId: id,
  orderId: id,
  given: z.string(),
  family: z.string(),
  party: z.string(),
  offer: z.string(),
  attendance: z.enum(attendanceStates),
  arrivedAt: instant.nullable(),
  /** The beginning of the SHA-256 of their pass, so that it is known again without a network and cannot be made from the list. */
  pass: z.string().nullable(),
  /** The last digits of telephones by which they are found, theirs and of whoever booked; no whole number. */
  digits: z.array(z.string()),
  /** The marks that taking back their arrival takes back. */
  undo: z.array(id),
  light: z.enum(['go', 'settle', 'stop']),
  headline: z.string(),
  details: z.array(z.string()),
  /** What matters of them and keeps nobody out: their first time, what they said no to. */
  toKnow: z.array(z.string()),
  /** What has to be settled before they come in. */
  missing: z.array(z.enum(['signature', 'guardian', 'money'])),
  /** The waivers that are still to be signed for them. */
  toSign: z.array(id),
  balance: amount,
  /** Whether they belong at this door: at that of a session those who signed up for it, or everybody. */
  here: z.boolean(),
  /** A child that is handed over: by a code, known again by the beginning of its SHA-256 with their id, or to somebody who is named. */
  handover: z.object({ hash: z.string(), collect: z.array(z.string()) }).nullable(),
  /** Whether a name tag was made for them; null where this event has none. */
  tagged: z.boolean().nullable(),
  /** True where something about their health is to be known; read apart, and each reading is written down. */
  care: z.boolean(),
});
export type DoorRow = z.infer<typeof doorRow>;

/** Somebody who is inside, for when everybody has to be found. */
const insideRow = z.object({
  key: z.string(),
  name: z.string(),
  part: z.enum(['seat', 'crew']),
  /** Under age on the day; not known where no birth date is. */
  minor: z.boolean(),
  since: instant.nullable(),
  /** Who is called for them, and on which number; empty where nobody is known. */
  call: z.string(),
  /** Who may collect a child that is handed over. */
  collect: z.array(z.string()),
});
export type InsideRow = z.infer<typeof insideRow>;

/** How somebody says who they are. */
const saidHere = z.object({
  given: z.string().trim().max(100),
  family: z.string().trim().max(100),
  /** An email address, or the last digits of a telephone. */
  known: z.string().trim().max(254),
  /** Whether the others of the booking are here, too. */
  others: z.boolean().default(false),
  language: z.enum(['en', 'fr']).default('en'),
});

export const doorsContract = contract({
  'GET /api/doors': {
    summary: 'The doors that somebody has now: events of today, yesterday and tomorrow, today’s first',
    who: ['door', 'unit lead', 'crew lead'],
    response: z.array(
      z.object({
        id,
        title: z.string(),
        startsLocal: z.string().nullable(),
        place: z.string().nullable(),
        day: z.enum(['today', 'to come', 'past']),
        confirmed: z.int(),
        arrived: z.int(),
      }),
    ),
  },
  'GET /api/events/:id/doors': {
    summary: 'The door list with live counts',
    who: ['door', 'unit lead', 'crew lead'],
    params: idParams,
    query: z.object({
      /** The door of a session of it. */
      session: id.optional(),
    }),
    response: z.object({
      title: z.string(),
      startsLocal: z.string().nullable(),
      state: z.string(),
      /** Its sessions that have a time, in order: each can have a door of its own. */
      sessions: z.array(
        z.object({
          id,
          title: z.string(),
          from: instant,
          until: instant,
          room: z.string().nullable(),
          /** True on the day it takes place. */
          today: z.boolean(),
        }),
      ),
      /** When its doors were closed; null while they are open. */
      closedAt: instant.nullable(),
      confirmed: z.int(),
      arrived: z.int(),
      inside: z.int(),
      capacity: z.int().nullable(),
      /** The most people who may be inside, crew and all, and how many of the crew are; null where nothing says so. */
      most: z.object({ people: z.int(), crew: z.int() }).nullable(),
      day: z.enum(['today', 'to come', 'past', 'no date']),
      currency,
      /** Where people check themselves in; null where they do not. */
      selfCheckIn: z.string().nullable(),
      /** The same on a shared device, where people can sign as well. */
      kiosk: z.string().nullable(),
      /** What is signed here, that of the event first. */
      waivers: z.array(waiverText),
      offers: z.array(z.object({ id, name: z.string(), price: amount })),
      rows: z.array(doorRow),
    }),
  },
  'GET /api/registrations/:id/care': {
    summary:
      'What has to be known about somebody’s health and needs at this event; the reading is written down',
    who: ['door', 'unit lead'],
    params: idParams,
    response: z.object({ notes: z.array(z.string()) }),
  },
  'POST /api/events/:id/scan': {
    summary: 'What a scanned or typed pass code means at this door; marks nothing',
    who: ['door', 'unit lead', 'crew lead'],
    params: idParams,
    body: z.object({ code: z.string().max(300), sessionId: id.nullable().default(null) }),
    response: z.object({
      row: doorRow.nullable(),
      light: z.enum(['go', 'settle', 'stop']),
      headline: z.string(),
      details: z.array(z.string()),
    }),
  },
  'POST /api/registrations/:id/attendance': {
    summary: 'Mark somebody arrived or left, or take the mark back',
    who: ['door', 'unit lead', 'crew lead'],
    params: idParams,
    body: z.object({
      /** The event at whose door they stand. */
      eventId: id,
      state: z.enum(['expected', 'arrived', 'left']),
      /** Why somebody is let in whom the door would stop. */
      despite: z.string().trim().max(300).default(''),
      /** Its own id, by which it is known again however often it is told. */
      markId: id.optional(),
      /** Which marks it takes back; nothing said is the stay they are in. */
      undoes: z.array(id).max(50).optional(),
      /** When it was and when it is sent, by the clock of the device: it may stand wrong, as long as it runs. */
      at: instant.optional(),
      sentAt: instant.optional(),
      /** What the door is called where the device stands. */
      device: z.string().trim().max(60).optional(),
      /** The session at whose door they stand. */
      sessionId: id.nullable().default(null),
      /** Of a child that leaves: the code of the booking, or who takes them. */
      handedTo: z.string().trim().max(100).default(''),
    }),
    response: z.object({ state: z.enum(attendanceStates), changed: z.boolean() }),
  },
  'POST /api/registrations/:id/signatures': {
    summary:
      'Sign the waiver at the door, on a device of the staff: for one, and for others of their booking in one go, all or none',
    who: ['door', 'unit lead', 'crew lead'],
    params: idParams,
    body: signing.extend({
      /** Others of the booking it is signed for as well, as for the children of a family. */
      others: z.array(forOne).max(29).default([]),
    }),
    response: z.object({ row: doorRow, others: z.array(doorRow) }),
  },
  'GET /api/events/:id/inside': {
    summary:
      'Everybody who is inside now, children first, with whom to call for them; the reading is written down',
    who: ['unit lead', 'door'],
    params: idParams,
    response: z.object({ now: instant, rows: z.array(insideRow) }),
  },
  'GET /api/events/:id/inside.pdf': {
    summary: 'The same to print: a box to tick for each',
    who: ['unit lead', 'door'],
    params: idParams,
    response: { file: 'application/pdf' },
  },
  'PUT /api/events/:id/self-check-in': {
    summary: 'Let people say themselves that they are here, by the code of a poster; or no longer',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    body: z.object({ on: z.boolean() }),
    response: z.object({ page: z.string().nullable(), kiosk: z.string().nullable() }),
  },
  'GET /api/events/:id/self-check-in.pdf': {
    summary: 'The poster with the code, with the organization’s words',
    who: ['unit lead', 'crew lead', 'door'],
    params: idParams,
    response: { file: 'application/pdf' },
  },
  'GET /api/public/here/:token': {
    summary: 'The page behind the poster of an event: what it is, and whether one can check in now',
    who: 'public',
    params: token,
    response: z.object({
      title: z.string(),
      startsLocal: z.string().nullable(),
      organization: z.string(),
      open: z.boolean(),
    }),
  },
  'POST /api/public/here/:token': {
    summary: 'Say that one is here. Answers nothing of anybody else, and the same for whoever is not found',
    who: 'public',
    params: token,
    body: saidHere.extend({
      /** Where they are, where they agreed to say so. */
      place: z
        .object({ latitude: z.number().min(-90).max(90), longitude: z.number().min(-180).max(180) })
        .nullable()
        .default(null),
    }),
    response: z.object({
      outcome: z.enum(['in', 'already in', 'sign', 'see the door', 'not found']),
      /** How many of their booking are not in yet. */
      others: z.int(),
      /** On a shared device at the doors: what is to be signed before they come in, and for whom. */
      sign: z
        .object({
          waivers: z.array(waiverText),
          people: z.array(
            z.object({
              registrationId: id,
              name: z.string(),
              relation: z.enum(['self', 'guardian']),
              toSign: z.array(id),
            }),
          ),
        })
        .nullable(),
    }),
  },
  'POST /api/public/here/:token/signatures': {
    summary: 'Sign on a shared device at the doors, for oneself and for the children of one’s booking',
    who: 'public',
    params: token,
    body: hand.extend({ said: saidHere, seats: forSeats }),
    response: done,
  },
  'GET /api/events/:id/known': {
    summary: 'People we know by a name, for a walk-in: as much of each as tells them apart',
    who: ['door', 'unit lead', 'crew lead'],
    params: idParams,
    query: z.object({ q: z.string().trim().min(3, 'three-letters').max(100) }),
    response: z.array(z.object({ contactId: id, name: z.string(), hint: z.string() })),
  },
  'GET /api/events/:id/known/:contact': {
    summary:
      'Who lives with somebody who was picked for a walk-in, or is looked after by them, and has no seat yet: their names',
    who: ['door', 'unit lead', 'crew lead'],
    params: z.object({ id, contact: id }),
    response: z.array(z.object({ contactId: id, given: z.string(), family: z.string() })),
  },
  'POST /api/events/:id/walk-ins': {
    summary:
      'Register somebody who comes without a seat, with who comes along, matched to contacts or made ones; paid and in where nothing is in the way, else with a reason',
    who: ['door', 'unit lead', 'crew lead'],
    params: idParams,
    query: z.object({
      /** When it is sent, by the clock of the device: the body stays the same however often it is. */
      sentAt: instant.optional(),
    }),
    body: personName.extend({
      given: z.string().trim().min(1, 'first-name-of-theirs').max(100),
      email: z.string().trim().max(254).default(''),
      phone: z.string().trim().max(40).default(''),
      birthDate: date.nullable().default(null),
      offerId: id,
      /** Somebody we know who was picked. */
      contactId: id.nullable().default(null),
      /** Who comes along: of their household, picked, or anybody else. */
      others: z
        .array(
          personName.extend({
            given: z.string().trim().min(1, 'first-name-of-theirs').max(100),
            birthDate: date.nullable().default(null),
            contactId: id.nullable().default(null),
          }),
        )
        .max(9)
        .default([]),
      /** When they came, by the clock of the device. */
      at: instant.optional(),
      /** What the door is called where the device stands. */
      device: z.string().trim().max(60).default(''),
      /** Whether what it comes to is taken in cash at once. */
      paid: z.boolean().default(false),
      despite: z.string().trim().max(300).default(''),
    }),
    response: z.object({
      registrationId: id,
      known: z.boolean(),
      arrived: z.boolean(),
      row: doorRow,
      /** Those who came along, with whether they are in. */
      others: z.array(doorRow),
    }),
  },
});
