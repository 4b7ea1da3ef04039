import { z } from 'zod';
import { registrationStates } from '#core/registration/states.ts';
import { code, contract, done, id, idParams, instant, token } from './endpoint.ts';
import { publicQuestion } from './publicEvent.ts';
import { answers, eventInShort, seatBody } from './registration.ts';
import { signing, signingOfSeat, waiverText } from './waivers.ts';

const guestPage = z.object({
  language: z.string(),
  event: eventInShort,
  /** Who booked it, by first name. */
  by: z.string(),
  offer: z.string(),
  state: z.enum(registrationStates),
  given: z.string(),
  family: z.string(),
  hasBirthDate: z.boolean(),
  needsBirthDate: z.boolean(),
  questions: z.array(publicQuestion),
  answers,
  /** Until when it can be filled in and changed; null where it cannot any more. */
  until: instant.nullable(),
  filled: z.boolean(),
  ...signingOfSeat.shape,
  /** The waivers that are still to be signed. */
  waivers: z.array(waiverText),
  pass: z.object({ code: z.string(), svg: z.string() }).nullable(),
});
export type GuestPage = z.infer<typeof guestPage>;

const asked = z.object({ email: z.string().trim().min(1, code('name-needed')).max(254) });

export const guestsContract = contract({
  'POST /api/public/orders/:token/seats/:seat/guest': {
    summary: 'Write to the guest of a seat, who fills it in by a link of their own',
    who: 'public',
    params: token.extend({ seat: id }),
    body: asked,
    response: done,
  },
  'GET /api/public/guests/:token': {
    summary: 'A seat as its guest sees it, from a link of their own',
    who: 'public',
    params: token,
    response: guestPage,
  },
  'PUT /api/public/guests/:token': {
    summary: 'Fill in one’s own seat: name, birth date, answers',
    who: 'public',
    params: token,
    body: seatBody,
    response: done,
  },
  'POST /api/public/guests/:token/signature': {
    summary: 'Sign the waiver of one’s own seat',
    who: 'public',
    params: token,
    body: signing,
    response: z.object({ sha256: z.string() }),
  },
  'PATCH /api/registrations/:id': {
    summary: 'Name the guest of a seat, correct a name, change answers',
    who: ['unit lead'],
    params: idParams,
    body: seatBody,
    response: done,
  },
  'POST /api/registrations/:id/guest': {
    summary: 'Write to the guest of a seat, who fills it in by a link of their own',
    who: ['unit lead'],
    params: idParams,
    body: asked,
    response: done,
  },
});
