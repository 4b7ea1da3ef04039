import { z } from 'zod';
import { attendanceStates } from '#core/doors/attendance.ts';
import { mostStays } from '#core/doors/correcting.ts';
import { code, contract, done, id, idParams, instant, token, wallTime } from './endpoint.ts';

const doorPeople = ['door', 'unit lead', 'crew lead'] as const;

/** A time somebody was there. */
const stay = z.object({ from: instant, until: instant.nullable() });

/** How long somebody was there, of how much. */
const counted = z.object({ minutes: z.int(), of: z.int() });

/** The same by the clock on the wall. */
const wallStay = z.object({ fromLocal: wallTime, untilLocal: wallTime.nullable() });

const why = z.string().trim().min(3, code('why-needed')).max(300);

/** What somebody says against what is kept of them. */
export const disputeKinds = ['came', 'did not come', 'other times'] as const;

const dispute = z.object({
  id,
  registrationId: id,
  name: z.string(),
  says: z.enum(disputeKinds),
  words: z.string(),
  at: instant,
  outcome: z.enum(['corrected', 'kept']).nullable(),
  answer: z.string(),
  answeredBy: z.string(),
});
export type Dispute = z.infer<typeof dispute>;

/** A list of who was there, as it is sent: its bytes in base64. */
const listSent = z.object({
  fileName: z.string().trim().min(1).max(200),
  content: z.base64().max(4_000_000),
  /** The session it is about; null for the event. */
  sessionId: id.nullable().default(null),
});

/** An event as a person sees what is kept of them there. */
const attendanceShown = z.object({
  state: z.enum(attendanceStates),
  arrivedAt: instant.nullable(),
  leftAt: instant.nullable(),
  /** Until when they can say that it is wrong; null where they cannot, or have. */
  until: instant.nullable(),
  /** What they said, and what became of it. */
  dispute: z
    .object({
      says: z.enum(disputeKinds),
      words: z.string(),
      outcome: z.enum(['corrected', 'kept']).nullable(),
      answer: z.string(),
    })
    .nullable(),
  /** Whether a certificate of attendance is theirs. */
  certificate: z.boolean(),
});
export type AttendanceShown = z.infer<typeof attendanceShown>;

export const attendanceContract = contract({
  'GET /api/events/:id/attendance': {
    summary:
      'Who was there, on which days and at which sessions, for how long, and whether they earned a certificate',
    who: doorPeople,
    params: idParams,
    response: z.object({
      days: z.array(z.object({ day: z.int(), from: instant, until: instant })),
      sessions: z.array(
        z.object({ id, title: z.string(), from: instant, until: instant, came: z.int(), kept: z.boolean() }),
      ),
      /** When it stands as it is; null without a date. */
      locksAt: instant.nullable(),
      locked: z.boolean(),
      /** Until when it is open once more. */
      openUntil: instant.nullable(),
      closedAt: instant.nullable(),
      certificate: z.object({ share: z.int(), of: z.enum(['event', 'sessions']) }).nullable(),
      rows: z.array(
        z.object({
          registrationId: id,
          given: z.string(),
          family: z.string(),
          offer: z.string(),
          state: z.enum(attendanceStates),
          arrivedAt: instant.nullable(),
          leftAt: instant.nullable(),
          counted,
          /** The sessions they were marked at. */
          sessions: z.array(id),
          earned: z.boolean(),
          corrected: z.boolean(),
        }),
      ),
      imports: z.array(
        z.object({
          id,
          fileName: z.string(),
          session: z.string().nullable(),
          rows: z.int(),
          people: z.int(),
          by: z.string(),
          at: instant,
          undoneAt: instant.nullable(),
        }),
      ),
      disputes: z.array(dispute),
    }),
  },
  'GET /api/registrations/:id/attendance': {
    summary:
      'Everything that was marked about somebody at an event: by whom, when, why, and what was taken back',
    who: doorPeople,
    params: idParams,
    response: z.object({
      eventId: id,
      name: z.string(),
      stays: z.array(stay),
      counted,
      sessions: z.array(z.object({ id, title: z.string(), stays: z.array(stay) })),
      marks: z.array(
        z.object({
          id,
          state: z.enum(['arrived', 'left', 'expected']),
          at: instant,
          toldAt: instant,
          by: z.string(),
          device: z.string(),
          session: z.string().nullable(),
          why: z.string(),
          handedTo: z.string(),
          takenBack: z.boolean(),
        }),
      ),
    }),
  },
  'PUT /api/registrations/:id/attendance': {
    summary: 'Say when somebody was there, and why it is said otherwise than it was marked',
    who: doorPeople,
    params: idParams,
    body: z.object({
      /** The session it is about; null for the event. */
      sessionId: id.nullable().default(null),
      /** By the clock on the wall at the event; without an end they are there, or were to the end. */
      stays: z.array(wallStay).max(mostStays),
      why,
    }),
    response: done,
  },
  'POST /api/events/:id/attendance/check': {
    summary: 'What a list of who was there says, row by row, and whom it names; keeps nothing',
    who: ['unit lead', 'crew lead'],
    limit: '6mb',
    params: idParams,
    body: listSent,
    response: z.object({
      /** What its columns say. */
      columns: z.array(z.string()),
      rows: z.array(
        z.object({
          line: z.int(),
          said: z.string(),
          from: instant.nullable(),
          until: instant.nullable(),
          /** Whom it names for sure. */
          registrationId: id.nullable(),
          /** Whom it may name. */
          maybe: z.array(z.object({ registrationId: id, name: z.string() })),
          problem: z.string().nullable(),
          absent: z.boolean(),
        }),
      ),
    }),
  },
  'POST /api/events/:id/attendance/lists': {
    summary:
      'Take a list of who was there: rows that name somebody for sure, and those somebody was chosen for',
    who: ['unit lead', 'crew lead'],
    limit: '6mb',
    params: idParams,
    body: listSent.extend({
      /** Who a row means, by its line; null leaves it out. */
      chosen: z.record(z.string().regex(/^\d{1,6}$/u), id.nullable()).default({}),
    }),
    response: z.object({ id, people: z.int() }),
  },
  'POST /api/attendance-lists/:id/undo': {
    summary: 'Take back what a list marked',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    body: z.object({}),
    response: done,
  },
  'GET /api/events/:id/doors/live': {
    summary:
      'How the doors stand: inside against what the place may hold, by door, and arrivals against what was to be expected',
    who: doorPeople,
    params: idParams,
    response: z.object({
      now: instant,
      seats: z.int(),
      arrived: z.int(),
      /** Inside with a seat, and of the crew. */
      inside: z.int(),
      crew: z.int(),
      minors: z.int(),
      capacity: z.int().nullable(),
      /** The most people who may be inside, crew and all. */
      most: z.int().nullable(),
      /** Where people were let in, by what the devices are called. */
      doors: z.array(z.object({ name: z.string(), arrived: z.int(), lastAt: instant })),
      curve: z.array(z.object({ at: instant, came: z.int().nullable(), forecast: z.int().nullable() })),
      /** What the forecast goes by: events of one series or kind, or all; null where too little is known. */
      basis: z
        .object({ of: z.enum(['series', 'kind', 'all']), events: z.int(), arrivals: z.int() })
        .nullable(),
      closedAt: instant.nullable(),
      expected: z.int(),
    }),
  },
  'POST /api/events/:id/doors/close': {
    summary: 'Close the doors: whoever is expected still is missed. Or open them again',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    body: z.object({ closed: z.boolean() }),
    response: z.object({ missed: z.int() }),
  },
  'POST /api/events/:id/attendance/open': {
    summary: 'Open once more what is kept of who came, after its time is up, for three days',
    who: ['coordinator'],
    params: idParams,
    body: z.object({ why }),
    response: z.object({ until: instant }),
  },
  'POST /api/attendance-disputes/:id': {
    summary: 'Answer somebody who says that what is kept of them is wrong; they are told',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    body: z.object({
      /** When they were there after all; null where it stays as it is. */
      stays: z.array(wallStay).max(mostStays).nullable(),
      answer: z.string().trim().max(1000).default(''),
    }),
    response: done,
  },
  'GET /api/events/:id/certificates.pdf': {
    summary: 'A certificate of attendance for everybody who earned one',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    response: { file: 'application/pdf' },
  },
  'GET /api/registrations/:id/certificate.pdf': {
    summary: 'The certificate of attendance of one',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    response: { file: 'application/pdf' },
  },
  'POST /api/registrations/:id/name-tag.pdf': {
    summary: 'One name tag for a label printer, made at the door; as often as it is needed',
    who: doorPeople,
    params: idParams,
    body: z.object({}),
    response: { file: 'application/pdf' },
  },
  'GET /api/public/orders/:token/attendance': {
    summary: 'What is kept of who came on the seats one booked',
    who: 'public',
    params: token,
    response: z.object({
      /** The code by which the children of the booking are handed over; null where they are not, or it is over. */
      handover: z.string().nullable(),
      seats: z.array(attendanceShown.extend({ id, name: z.string() })),
    }),
  },
  'POST /api/public/orders/:token/seats/:seat/attendance': {
    summary: 'Say that what is kept of who came on a seat is wrong',
    who: 'public',
    params: token.extend({ seat: id }),
    body: z.object({ says: z.enum(disputeKinds), words: z.string().trim().max(1000).default('') }),
    response: done,
  },
  'GET /api/public/orders/:token/seats/:seat/certificate.pdf': {
    summary: 'The certificate of attendance of one’s own, or of somebody one booked for',
    who: 'public',
    params: token.extend({ seat: id }),
    response: { file: 'application/pdf' },
  },
  'GET /api/public/guests/:token/attendance': {
    summary: 'What is kept of whether one came',
    who: 'public',
    params: token,
    response: z.object({ seat: attendanceShown.nullable() }),
  },
  'POST /api/public/guests/:token/attendance': {
    summary: 'Say that what is kept of who came on one’s seat is wrong',
    who: 'public',
    params: token,
    body: z.object({ says: z.enum(disputeKinds), words: z.string().trim().max(1000).default('') }),
    response: done,
  },
  'GET /api/public/guests/:token/certificate.pdf': {
    summary: 'One’s own certificate of attendance',
    who: 'public',
    params: token,
    response: { file: 'application/pdf' },
  },
});
