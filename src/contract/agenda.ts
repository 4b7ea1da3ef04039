import { z } from 'zod';
import {
  code,
  contract,
  date,
  done,
  id,
  idParams,
  instant,
  text,
  texts,
  token,
  wallTime,
} from './endpoint.ts';
import { shownPicture } from './pictures.ts';

/** Something the public reads in both languages, as long as it may be. */
const said = (most: number) => z.object({ en: text(most), fr: text(most).optional() });
const timeOfDay = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/u, 'no-such-time');

export const speakers = z
  .array(
    z.object({
      id,
      /** Who they are among the contacts; null where that was not said. */
      contactId: id.nullable().default(null),
      name: text(120),
      line: said(200),
      pictureId: id.nullable().default(null),
    }),
  )
  .max(120);
export type Speaker = z.output<typeof speakers>[number];

export const sponsors = z
  .array(
    z.object({
      id,
      contactId: id.nullable().default(null),
      name: text(120),
      level: text(60).default(''),
      address: z.string().trim().max(2000).default(''),
      pictureId: id.nullable().default(null),
    }),
  )
  .max(80);
export type Sponsor = z.output<typeof sponsors>[number];

export const tracks = z.array(z.object({ id, name: said(60) })).max(12);
export const sessions = z
  .array(
    z.object({
      id,
      kind: z.enum(['session', 'break']),
      title: said(160),
      about: said(2000).default({ en: '' }),
      day: z.int().min(1, 'session-no-day').max(60, 'session-no-day').nullable().default(null),
      begins: timeOfDay.nullable().default(null),
      ends: timeOfDay.nullable().default(null),
      trackId: id.nullable().default(null),
      roomId: id.nullable().default(null),
      capacity: z
        .int('not-whole')
        .min(1, 'at-least-one-or-none')
        .max(100_000, 'at-most-100000')
        .nullable()
        .default(null),
      signUp: z.boolean().default(false),
      speakerIds: z.array(id).max(12).default([]),
    }),
  )
  .max(300);
export type SessionPlan = z.output<typeof sessions>[number];

/** Where people are asked to propose sessions: until when, and what they are told. */
export const call = z.object({ closes: date.nullable(), words: said(2000) });

/** A session as the public sees it. */
const shownSession = z.object({
  id,
  kind: z.enum(['session', 'break']),
  title: texts,
  about: texts,
  day: z.int(),
  begins: timeOfDay,
  ends: timeOfDay,
  /** Null while the event has no date. */
  startsLocal: wallTime.nullable(),
  track: texts.nullable(),
  room: z.string().nullable(),
  speakers: z.array(z.string()),
  signUp: z.boolean(),
  /** Seats still to be had; null when nothing limits them. */
  left: z.int().nullable(),
});
export type ShownSession = z.infer<typeof shownSession>;
/** What of an event's page is its agenda and the people on it. */
export const shownAgenda = z.object({
  sessions: z.array(shownSession),
  speakers: z.array(z.object({ id, name: z.string(), line: texts, picture: shownPicture.nullable() })),
  sponsors: z.array(
    z.object({
      id,
      name: z.string(),
      level: z.string(),
      address: z.string(),
      picture: shownPicture.nullable(),
    }),
  ),
  /** Until when sessions can be proposed, and what is said about it; null where they cannot. */
  call: z.object({ closes: date.nullable(), words: texts }).nullable(),
});
export type ShownAgenda = z.infer<typeof shownAgenda>;

const proposal = z.object({
  id,
  title: z.string(),
  about: z.string(),
  minutes: z.int(),
  speakerName: z.string(),
  speakerLine: z.string(),
  email: z.string(),
  contactId: id.nullable(),
  state: z.enum(['new', 'accepted', 'declined']),
  words: z.string(),
  proposedAt: instant,
  decidedBy: z.string().nullable(),
});
export type SessionProposal = z.infer<typeof proposal>;

export const agendaContract = contract({
  'GET /api/events/:id/agenda': {
    summary: 'How many signed up for each session, and the sessions people proposed',
    who: ['unit lead'],
    params: idParams,
    response: z.object({
      taken: z.array(z.object({ sessionId: id, seats: z.int() })),
      proposals: z.array(proposal),
    }),
  },
  'POST /api/session-proposals/:id/decide': {
    summary:
      'Take a proposed session into the agenda with its speaker, who becomes a contact; or decline it. Who proposed it is told, with words of one’s own',
    who: ['unit lead'],
    params: idParams,
    body: z.object({ accept: z.boolean(), words: text(500).default('') }),
    response: z.object({ version: z.int().nullable() }),
  },
  'GET /api/public/events/:slug/call': {
    summary: 'What sessions can be proposed for, also before its event is open',
    who: 'public',
    params: z.object({ slug: z.string() }),
    response: z.object({
      title: z.string(),
      french: z.object({ title: z.string() }).nullable(),
      startsLocal: z.string().nullable(),
      /** Whether the event has a page already. */
      isPublic: z.boolean(),
      call: z.object({ closes: date.nullable(), words: texts }),
    }),
  },
  'POST /api/public/events/:slug/proposals': {
    summary: 'Propose a session',
    who: 'public',
    params: z.object({ slug: z.string() }),
    body: z.object({
      title: z.string().trim().min(3, code('proposal-untitled')).max(160),
      about: z.string().trim().min(20, code('proposal-short')).max(2000),
      minutes: z
        .int(code('whole-number'))
        .min(5, code('proposal-minutes'))
        .max(600, code('proposal-minutes')),
      speakerName: z.string().trim().min(1, code('name-needed')).max(120),
      speakerLine: z.string().trim().max(200).default(''),
      email: z.string().trim().max(254),
      language: z.enum(['en', 'fr']).default('en'),
    }),
    response: done,
  },
  'GET /api/public/orders/:token/sessions': {
    summary: 'The sessions that those of a booking can sign up for, and have',
    who: 'public',
    params: token,
    response: z.object({
      sessions: z.array(shownSession),
      seats: z.array(z.object({ id, name: z.string(), has: z.array(id) })),
    }),
  },
  'PUT /api/public/orders/:token/seats/:seat/sessions': {
    summary: 'Say which sessions somebody of a booking comes to',
    who: 'public',
    params: token.extend({ seat: id }),
    body: z.object({ sessions: z.array(id).max(60) }),
    response: done,
  },
  'GET /api/public/orders/:token/seats/:seat/sessions.ics': {
    summary: "Somebody's own sessions as a calendar file",
    who: 'public',
    params: token.extend({ seat: id }),
    response: { file: 'text/calendar' },
  },
});
