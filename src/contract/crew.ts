import { z } from 'zod';
import { quietReasons } from '#core/contacts/quiet.ts';
import { assignmentStates } from '#core/crew/states.ts';
import { code, contract, done, id, idParams, instant, personName, token, wallTime } from './endpoint.ts';

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
});
const crewShift = z.object({
  id,
  role: z.string(),
  place: z.string(),
  startsLocal: z.string(),
  endsLocal: z.string(),
  startsAt: instant,
  endsAt: instant,
  needed: z.int(),
  filled: z.int(),
  publicSignUp: z.boolean(),
  assignments: z.array(assignment),
});
export type CrewShift = z.infer<typeof crewShift>;
const clash = z.object({ kind: z.enum(['overlap', 'short rest', 'own seat', 'quiet']), text: z.string() });
const shiftBody = z.object({
  role: z.string().trim().min(1, 'role-unnamed').max(80),
  place: z.string().trim().max(80).default(''),
  startsLocal: wallTime,
  endsLocal: wallTime,
  needed: z.int().min(1, 'at-least-one').max(200),
  publicSignUp: z.boolean().default(true),
});
const publicShift = crewShift.pick({
  id: true,
  role: true,
  place: true,
  startsLocal: true,
  endsLocal: true,
  needed: true,
  filled: true,
});

export const crewContract = contract({
  'GET /api/events/:id/crew': {
    summary: 'The shifts of an event with who is on them',
    who: 'staff',
    params: idParams,
    response: z.object({ shifts: z.array(crewShift), needed: z.int(), filled: z.int(), hours: z.number() }),
  },
  'POST /api/events/:id/shifts': {
    summary: 'Add a shift',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    body: shiftBody,
    response: z.object({ id }),
  },
  'DELETE /api/shifts/:id': {
    summary: 'Remove a shift nobody is on',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    response: done,
  },
  'POST /api/shifts/:id/assignments': {
    summary: 'Put somebody on a shift; clashes are answered and need a reason to be overridden',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    body: z.object({ contactId: id, overrideReason: z.string().trim().max(300).default('') }),
    response: z.object({ assigned: z.boolean(), clashes: z.array(clash) }),
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
      shifts: z.array(publicShift),
    }),
  },
  'POST /api/public/shifts/:id/sign-up': {
    summary:
      'Sign up for a shift; the link to one’s shifts goes by mail, and the answer is the same for everybody',
    who: 'public',
    params: idParams,
    body: personName.extend({
      given: z.string().trim().min(1, code('first-name-needed')).max(100),
      family: z.string().trim().min(1, code('last-name-needed')).max(100),
      email: z.string().trim().max(254),
      phone: z.string().trim().max(40).default(''),
      language: z.enum(['en', 'fr']).default('en'),
    }),
    response: done,
  },
  'GET /api/public/crew/:token': {
    summary: "A volunteer's own shifts, coming and past",
    who: 'public',
    params: token,
    response: z.object({
      name: z.string(),
      hoursServed: z.number(),
      shifts: z.array(
        publicShift.extend({
          assignmentId: id,
          event: z.string(),
          slug: z.string().nullable(),
          zone: z.string(),
          venue: z.string().nullable(),
          state: z.string(),
          past: z.boolean(),
        }),
      ),
    }),
  },
  'POST /api/public/crew/:token/drop': {
    summary: 'Give a shift back',
    who: 'public',
    params: token,
    body: z.object({ assignmentId: id }),
    response: done,
  },
  'GET /api/public/crew/:token/calendar.ics': {
    summary: "A volunteer's shifts as a calendar",
    who: 'public',
    params: token,
    response: { file: 'text/calendar' },
  },
});
