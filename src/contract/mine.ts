import { z } from 'zod';
import { attendanceStates } from '#core/doors/attendance.ts';
import { eventStates } from '#core/events/states.ts';
import { registrationStates } from '#core/registration/states.ts';
import { amount, code, contract, currency, done, id, instant, token } from './endpoint.ts';
import { listedEvent } from './publicEvent.ts';

/** Where one came to by a code or a link: signed in, or several people have the address and one of them has to be chosen. */
const entered = z.object({
  signedIn: z.boolean(),
  choose: z.array(z.object({ id, name: z.string() })),
});

const held = z.object({
  event: z.object({
    slug: z.string().nullable(),
    title: z.string(),
    state: z.enum(eventStates),
    startsLocal: z.string().nullable(),
    endsLocal: z.string().nullable(),
    startsAt: instant.nullable(),
    zone: z.string(),
    place: z.string().nullable(),
  }),
  coming: z.boolean(),
});
const heldSeat = held.extend({
  /** Who has the seat: themselves, a child, or whoever they booked for. */
  name: z.string(),
  offer: z.string(),
  state: z.enum(registrationStates),
  attendance: z.enum(attendanceStates).nullable(),
  /** The page of the booking, where it is theirs; of their own seat that somebody else booked, its page. */
  token: z.string().nullable(),
  seatToken: z.string().nullable(),
  /** Whether the waiver still has to be signed. */
  toSign: z.boolean(),
});
const heldShift = held.extend({
  role: z.string(),
  startsLocal: z.string(),
  endsLocal: z.string(),
});
const mine = z.object({
  person: z.object({ id, given: z.string(), family: z.string() }),
  /** The page with their shifts, where they have any. */
  crewToken: z.string().nullable(),
  seats: z.array(heldSeat),
  shifts: z.array(heldShift),
  /** Surveys that wait for their answer. */
  surveys: z.array(z.object({ title: z.string(), token: z.string() })),
  /** Events of theirs at which something can be counted now. */
  counts: z.array(z.object({ title: z.string(), token: z.string() })),
  /** What they gave, the newest first. */
  gifts: z.array(
    z.object({
      on: z.string(),
      amount,
      currency,
      fund: z.string(),
      event: z.string().nullable(),
      anonymous: z.boolean(),
    }),
  ),
  /** The link of their calendar to subscribe to. */
  feedToken: z.string(),
  /** Coming events that they may see and not everybody. */
  forThem: z.array(listedEvent),
});
export type Mine = z.infer<typeof mine>;

export const mineContract = contract({
  'POST /api/public/sign-in': {
    summary:
      'Send a code and a link to an email on record; the answer is the same whether or not it is known',
    who: 'public',
    body: z.object({ email: z.string().trim().max(254), language: z.enum(['en', 'fr']).default('en') }),
    response: z.object({
      ticket: z.string(),
      /** The code itself, in the demonstration alone, whose mail goes nowhere. */
      demoCode: z.string().nullable(),
    }),
  },
  'POST /api/public/sign-in/code': {
    summary: 'Sign in with the code, in the browser that asked for it; once, for fifteen minutes',
    who: 'public',
    ownTransactions: true,
    body: z.object({
      ticket: z.string().min(10).max(100),
      code: z.string().trim().min(1, code('sign-in-code-wrong')).max(20),
      contactId: id.nullable().default(null),
    }),
    response: entered,
  },
  'POST /api/public/sign-in/link': {
    summary: 'Sign in with the link of that message, on any device; once, for fifteen minutes',
    who: 'public',
    body: z.object({ token: z.string().min(10).max(100), contactId: id.nullable().default(null) }),
    response: entered,
  },
  'DELETE /api/public/sign-in': {
    summary: 'Sign out on this device',
    who: 'public',
    response: done,
  },
  'GET /api/public/mine/:token/calendar.ics': {
    summary:
      'What somebody holds as a calendar to subscribe to: their confirmed seats and shifts, of the last two months on',
    who: 'public',
    params: token,
    response: { file: 'text/calendar' },
  },
  'GET /api/public/mine': {
    summary: 'What somebody holds and may see; null where nobody is signed in',
    who: 'public',
    response: mine.nullable(),
  },
});
