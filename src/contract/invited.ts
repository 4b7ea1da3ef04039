import { z } from 'zod';
import { replies } from '#core/admission/invitation.ts';
import { contract, done, id, idParams, instant, token } from './endpoint.ts';
import { whoGets } from './mailings.ts';
import { eventInShort } from './registration.ts';

const invited = z.object({
  contactId: id,
  name: z.string(),
  /** How many they may bring along. */
  companions: z.int(),
  answer: z.enum(replies).nullable(),
  words: z.string(),
  answeredAt: instant.nullable(),
  /** How often they were written to. */
  written: z.int(),
  /** Seats they hold. */
  seats: z.int(),
});
export type Invited = z.infer<typeof invited>;

const companions = z.int('whole-or-none').min(0, 'whole-or-none').max(50, 'whole-or-none');
const letter = z.object({ words: z.string().trim().max(4000).default('') });

const page = z.object({
  event: eventInShort,
  given: z.string(),
  companions: z.int(),
  /** What they can answer, beside coming. */
  replies: z.array(z.enum(replies)),
  answer: z.enum(replies).nullable(),
  words: z.string(),
  /** Whether they can register now. */
  open: z.boolean(),
  /** Seats they hold: those are given up where they were booked. */
  seats: z.int(),
});
export type InvitationPage = z.infer<typeof page>;

export const invitedContract = contract({
  'GET /api/events/:id/invited': {
    summary: 'Who is invited, and what they answered',
    who: ['unit lead'],
    params: idParams,
    response: z.array(invited),
  },
  'POST /api/events/:id/invited': {
    summary:
      'Invite people who are on record, or all of a segment who have no seat, and nothing is sent; or take that back. Answers whom that changed',
    who: ['unit lead'],
    limit: '6mb',
    params: idParams,
    body: z.object({
      contactIds: z.array(id).max(100_000).default([]),
      /** Only who may read it invites a whole segment. */
      segmentId: id.optional(),
      companions: companions.default(0),
      /** Takes back the invitations of these who were not written to and said nothing. */
      remove: z.boolean().default(false),
    }),
    response: z.object({ contactIds: z.array(id) }),
  },
  'PATCH /api/events/:id/invited/:contact': {
    summary: 'Change how many somebody may bring along',
    who: ['unit lead'],
    params: z.object({ id, contact: id }),
    body: z.object({ companions }),
    response: done,
  },
  'DELETE /api/events/:id/invited/:contact': {
    summary: 'Somebody is no longer invited; a seat they have stays theirs',
    who: ['unit lead'],
    params: z.object({ id, contact: id }),
    response: done,
  },
  'POST /api/events/:id/invited/letters/preview': {
    summary: 'Who would be written an invitation, who would not and why',
    who: ['unit lead'],
    ownTransactions: true,
    params: idParams,
    body: letter,
    response: whoGets,
  },
  'POST /api/events/:id/invited/letters': {
    summary: 'Write to all who are invited and have not said yes or no, each with a link of their own',
    who: ['unit lead'],
    params: idParams,
    body: letter.extend({ expect: z.int() }),
    response: z.object({ planned: z.int(), leftOut: z.int() }),
  },
  'GET /api/public/invitations/:token': {
    summary: 'An invitation as whoever is invited reads it',
    who: 'public',
    params: token,
    response: page,
  },
  'POST /api/public/invitations/:token/answer': {
    summary: 'Say that one does not come, or perhaps; whoever comes registers',
    who: 'public',
    params: token,
    body: z.object({
      answer: z.enum(['no', 'perhaps']),
      words: z.string().trim().max(500).default(''),
    }),
    response: done,
  },
});
