import { z } from 'zod';
import { quietReasons } from '#core/contacts/quiet.ts';
import { againstKinds } from '#core/crew/againstKinds.ts';
import { foundIn } from '#core/crew/finding.ts';
import { importances } from '#core/crew/importance.ts';
import { sheetKinds } from '#core/crew/sheetKinds.ts';
import { assignmentStates } from '#core/crew/states.ts';
import { searchEnds } from '#core/crew/steppingIn.ts';
import {
  code,
  contract,
  date,
  done,
  id,
  idParams,
  instant,
  personName,
  token,
  wallTime,
} from './endpoint.ts';
import { signing, waiverText } from './waivers.ts';

export const against = z.object({ kind: z.enum(againstKinds), text: z.string(), absolute: z.boolean() });
const assignment = z.object({
  id,
  contactId: id,
  name: z.string(),
  /** Why nothing is sent to them. */
  quiet: z.enum(quietReasons).nullable(),
  state: z.enum(assignmentStates),
  source: z.enum(['staff', 'public']),
  overrideReason: z.string().nullable(),
  hours: z.number().nullable(),
  /** When they came and left, as far as it was ticked off. */
  inAt: instant.nullable(),
  outAt: instant.nullable(),
  /** How their hours were put right. */
  corrections: z.array(
    z.object({ at: instant, by: z.string(), before: z.number(), after: z.number(), why: z.string() }),
  ),
  /** Of whoever asked for it: what speaks against them now. */
  against: z.array(against),
});
const crewShift = z.object({
  id,
  /** What the shift itself is called, beside its role; mostly nothing. */
  name: z.string(),
  role: z.string(),
  place: z.string(),
  startsLocal: z.string(),
  endsLocal: z.string(),
  startsAt: instant,
  endsAt: instant,
  /** How many it takes at least, and how many are wished. */
  least: z.int(),
  wished: z.int(),
  importance: z.enum(importances),
  briefing: z.string(),
  /** Who leads it, as a contact. */
  leadId: id.nullable(),
  lead: z.string().nullable(),
  filled: z.int(),
  publicSignUp: z.boolean(),
  /** How many wait for it, how many are asked to step in now, and how the last search ended. */
  waiting: z.int(),
  asking: z.int(),
  searched: z.enum(searchEnds).nullable(),
  version: z.int(),
  /** Everybody on it, and who asked for it. */
  assignments: z.array(assignment),
});
export type CrewShift = z.infer<typeof crewShift>;
export type ShownAgainst = z.infer<typeof against>;
const shiftFields = z.object({
  name: z.string().trim().max(80).default(''),
  role: z.string().trim().min(1, 'role-unnamed').max(80),
  place: z.string().trim().max(80).default(''),
  startsLocal: wallTime,
  endsLocal: wallTime,
  wished: z.int().min(1, 'at-least-one').max(200),
  /** Left out: as many as are wished. */
  least: z.int().min(0, 'not-whole').max(200).nullable().default(null),
  importance: z.enum(importances).default('usual'),
  briefing: z.string().trim().max(2000).default(''),
  leadId: id.nullable().default(null),
  publicSignUp: z.boolean().default(true),
});
const shiftBody = shiftFields.refine((s) => s.least === null || s.least <= s.wished, {
  path: ['least'],
  error: 'least-above',
});
export type ShiftBody = z.output<typeof shiftBody>;
const version = z.int();
/** Somebody on a shift that is changed: whether they are told, and what speaks against it as it will be. */
const affected = z.object({ contactId: id, name: z.string(), against: z.array(against) });
const publicShift = crewShift
  .pick({
    id: true,
    name: true,
    role: true,
    place: true,
    startsLocal: true,
    endsLocal: true,
    wished: true,
    filled: true,
    startsAt: true,
    endsAt: true,
  })
  .extend({ zone: z.string() });

/** Whoever offers to help from outside. */
export const person = personName.extend({
  given: z.string().trim().min(1, code('first-name-needed')).max(100),
  family: z.string().trim().min(1, code('last-name-needed')).max(100),
  email: z.string().trim().max(254),
  phone: z.string().trim().max(40).default(''),
  language: z.enum(['en', 'fr']).default('en'),
});

/** A shift somebody is not on, as their own page shows it. */
const ownElsewhere = z.object({
  shiftId: id,
  name: z.string(),
  role: z.string(),
  place: z.string(),
  startsLocal: z.string(),
  endsLocal: z.string(),
  event: z.string(),
  zone: z.string(),
});

/** A shift anybody may sign up for. */
const openShift = publicShift.extend({
  /** What one does. */
  brief: z.string(),
  fromAge: z.int().nullable(),
  /** What whoever takes it has to have. */
  needs: z.array(z.string()),
  /** Whoever signs up is on it once the crew lead agreed. */
  asked: z.boolean(),
  event: z.object({ title: z.string(), slug: z.string() }),
});

/** How many places were filled so many days before an event. */
const fillPoint = z.object({ days: z.int(), filled: z.int() });

export const crewContract = contract({
  'GET /api/events/:id/crew': {
    summary: 'The shifts of an event with who is on them',
    who: 'staff',
    params: idParams,
    response: z.object({
      shifts: z.array(crewShift),
      wished: z.int(),
      filled: z.int(),
      asked: z.int(),
      /** People who wished for another shift than theirs; 0 for whoever does not decide. */
      swaps: z.int(),
      hours: z.number(),
      /** Minutes after which whoever is not there counts as missing. */
      lateMinutes: z.int(),
      now: instant,
    }),
  },
  'GET /api/events/:id/crew.pdf': {
    summary:
      'The shifts of an event on paper, with who is on them: by day, role, place or person, or to sign in',
    who: 'staff',
    params: idParams,
    query: z.object({ by: z.enum(sheetKinds).default('day') }),
    response: { file: 'application/pdf' },
  },
  'GET /api/events/:id/crew.csv': {
    summary: 'The shifts of an event as a table, a row for everybody on one and for every open place',
    who: 'staff',
    params: idParams,
    response: { file: 'text/csv' },
  },
  'GET /api/events/:id/crew/figures': {
    summary:
      'How the places filled up to the event, beside the last time it was held; drop-outs, load and who came back',
    who: 'staff',
    params: idParams,
    response: z.object({
      wished: z.int(),
      fill: z.array(fillPoint),
      /** The time it was held before. */
      before: z
        .object({ title: z.string(), startsLocal: z.string(), wished: z.int(), fill: z.array(fillPoint) })
        .nullable(),
      drops: z.object({ all: z.int(), early: z.int(), late: z.int(), last: z.int(), share: z.number() }),
      load: z.object({
        people: z.int(),
        least: z.number(),
        median: z.number(),
        most: z.number(),
        busiest: z.number(),
        returning: z.int(),
      }),
    }),
  },
  'POST /api/events/:id/shifts': {
    summary: 'Add a shift',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    body: shiftBody,
    response: z.object({ id }),
  },
  'POST /api/events/:id/shifts/several': {
    summary: 'Add many shifts at once, or none of them',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    body: z.object({ shifts: z.array(shiftBody).min(1, 'nothing-there').max(400) }),
    response: z.object({ ids: z.array(id) }),
  },
  'PUT /api/shifts/:id': {
    summary: 'Change a shift; who is on it is told where its time, place or role changed',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    body: shiftFields
      .extend({
        version,
        /** Only answers what would follow. */
        trying: z.boolean().default(false),
        tell: z.boolean().default(true),
      })
      .refine((s) => s.least === null || s.least <= s.wished, { path: ['least'], error: 'least-above' }),
    response: z.object({ version, told: z.int(), on: z.array(affected) }),
  },
  'POST /api/shifts/:id/cut': {
    summary: 'Cut a shift into several that follow each other; who is on it stays on the first',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    body: z.object({
      version,
      parts: z.int().min(2, 'parts-two').max(24),
      /** Minutes a part goes on after the next began. */
      handover: z.int().min(0).max(120).default(0),
      tell: z.boolean().default(true),
    }),
    response: z.object({ ids: z.array(id), told: z.int() }),
  },
  'DELETE /api/shifts/:id': {
    summary: 'Remove a shift nobody is on',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    response: done,
  },
  'GET /api/shifts/:id/candidates': {
    summary:
      'Who could be put on a shift, the best first, with why and what speaks against them; of those only of whom what is asked for is known',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    query: z.object({ q: z.string().trim().max(100).default('') }),
    response: z.object({
      /** How many nothing speaks against, and how many there are in all. */
      free: z.int(),
      all: z.int(),
      shown: z.array(
        z.object({
          contactId: id,
          name: z.string(),
          servedInRole: z.int(),
          hoursHere: z.number(),
          /** How much they want this role, from 1 to 3; 0 where they did not say so. */
          wish: z.int(),
          /** They applied to help with it, and were accepted. */
          accepted: z.boolean(),
          against: z.array(against),
          /** Where what was asked for stands, beside the name. */
          found: z.array(z.object({ in: z.enum(foundIn), label: z.string(), text: z.string() })),
        }),
      ),
      /** How many are found in all. */
      matching: z.int(),
    }),
  },
  'POST /api/shifts/:id/assignments': {
    summary:
      'Put somebody on a shift; what speaks against it is answered, and needs a reason to be overridden',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    body: z.object({ contactId: id, overrideReason: z.string().trim().max(300).default('') }),
    response: z.object({ assigned: z.boolean(), clashes: z.array(against) }),
  },
  'POST /api/assignments/:id/state': {
    summary: 'Drop somebody from a shift, or say that they served or missed it',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    body: z.object({
      state: z.enum(['dropped', 'agreed', 'served', 'missed']),
      hours: z.number().min(0).max(48).optional(),
    }),
    response: done,
  },
  'GET /api/public/events/:slug/shifts': {
    summary: 'Open shifts anybody may sign up for',
    who: 'public',
    params: z.object({ slug: z.string() }),
    response: z.object({
      title: z.string(),
      slug: z.string(),
      zone: z.string(),
      startsLocal: z.string().nullable(),
      place: z.string().nullable(),
      shifts: z.array(openShift),
    }),
  },
  'GET /api/public/shifts': {
    summary: 'Open shifts anybody may sign up for, of every event that stands in the public listing',
    who: 'public',
    response: z.object({ today: date, shifts: z.array(openShift) }),
  },
  'POST /api/public/shifts/:id/sign-up': {
    summary:
      'Sign up for a shift; the link to one’s shifts goes by mail, and the answer is the same for everybody',
    who: 'public',
    params: idParams,
    body: person,
    response: done,
  },
  'GET /api/public/crew/:token': {
    summary: "A volunteer's own shifts, coming and past",
    who: 'public',
    params: token,
    response: z.object({
      name: z.string(),
      /** As it stands on what they sign. */
      fullName: z.string(),
      hoursServed: z.number(),
      shifts: z.array(
        publicShift.extend({
          assignmentId: id,
          eventId: id,
          event: z.string(),
          slug: z.string().nullable(),
          venue: z.string().nullable(),
          address: z.string().nullable(),
          latitude: z.number().nullable(),
          longitude: z.number().nullable(),
          /** What its role is about, and what is said of this one. */
          brief: z.string(),
          briefing: z.string(),
          /** Who leads it; their number on the day only. */
          lead: z.string().nullable(),
          leadPhone: z.string().nullable(),
          state: z.string(),
          past: z.boolean(),
          /** Other shifts they would have in its place. */
          wants: z.array(id),
        }),
      ),
      /** What they still have to sign, by event. */
      toSign: z.array(
        z.object({
          eventId: id,
          event: z.string(),
          relation: z.enum(['self', 'guardian']),
          waivers: z.array(waiverText),
        }),
      ),
      /** Shifts they are asked to step in on, and until when they can say so. */
      asks: z.array(ownElsewhere.extend({ askId: id, until: instant, brief: z.string() })),
      /** Shifts they wait for, and how many wait before them. */
      waits: z.array(ownElsewhere.extend({ before: z.int() })),
      /** Shifts that can be wished for in the place of one's own of the same event. */
      others: z.array(ownElsewhere.extend({ eventId: id, room: z.boolean() })),
      /** Shifts that somebody would give for one of theirs. */
      wished: z.array(ownElsewhere.extend({ assignmentId: id })),
    }),
  },
  'POST /api/public/crew/:token/signatures': {
    summary: 'Sign what is asked of the crew of an event',
    who: 'public',
    params: token,
    body: signing.extend({ eventId: id }),
    response: done,
  },
  'POST /api/public/crew/:token/drop': {
    summary: 'Give a shift back; somebody else is asked to step in where the organization has it so',
    who: 'public',
    params: token,
    body: z.object({ assignmentId: id, words: z.string().trim().max(300).default('') }),
    response: done,
  },
  'GET /api/public/crew/:token/calendar.ics': {
    summary: "A volunteer's shifts as a calendar",
    who: 'public',
    params: token,
    response: { file: 'text/calendar' },
  },
});
