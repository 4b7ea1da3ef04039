import { z } from 'zod';
import { type Audience, audiences } from '#core/messages/audiences.ts';
import { channels } from '#core/messages/channels.ts';
import { messageStates } from '#core/messages/states.ts';
import type { Doc } from '#core/text/types.ts';
import { contract, date, done, id, idParams, instant } from './endpoint.ts';
import { messageLine } from './plan.ts';

const messageRow = z.object({
  id,
  eventId: id.nullable(),
  event: z.string().nullable(),
  line: z.string().nullable(),
  channel: z.enum(channels),
  kind: z.string(),
  contactId: id.nullable(),
  name: z.string(),
  address: z.string().nullable(),
  state: z.enum(messageStates),
  reason: z.string(),
  whyNot: z.string().nullable(),
  plannedFor: instant.nullable(),
  nextTryAt: instant.nullable(),
  sentAt: instant.nullable(),
  attempts: z.int(),
  /** The line as whose message it went, or is going: several within minutes are one. */
  wentWith: z.string().nullable(),
});
export type MessageRow = z.infer<typeof messageRow>;

/** A message of a line, also one that there is none of because somebody does not get it. */
const messageOfLine = messageRow.extend({ key: z.string() });
export type MessageOfLine = z.infer<typeof messageOfLine>;
export const lineOfPlan = z.object({
  lineId: id,
  name: z.string(),
  when: z.string(),
  channel: z.enum(channels),
  audience: z.enum(Object.keys(audiences) as [Audience, ...Audience[]]),
  off: z.boolean(),
  /** When it was sent by hand. */
  sentByHandAt: instant.nullable(),
  planned: z.int(),
  sent: z.int(),
  failed: z.int(),
  getNone: z.int(),
  firstAt: instant.nullable(),
  /** The first of those who get it, and of those who do not. */
  rows: z.array(messageOfLine),
  leftOut: z.array(messageOfLine),
});
export type LineOfPlan = z.infer<typeof lineOfPlan>;
const personOfPlan = z.object({
  /** Of their record, or of their seat where they have none. */
  id: z.string(),
  name: z.string(),
  address: z.string().nullable(),
  entries: z.array(z.object({ lineId: id, message: messageOfLine })),
});
export type PersonOfPlan = z.infer<typeof personOfPlan>;

/** Under which key a line knows somebody: `keyOf` in core. */
const recipientKey = z
  .string()
  .regex(/^(?:(?:order )?[\da-f-]{36}(?: [\d:.TZ-]+)?|(?:guardian|session) [\da-f-]{36} [\da-f-]{36})$/u);
const lineParams = z.object({ id, lineId: id });
export const previewed = z.object({
  name: z.string(),
  address: z.string().nullable(),
  channel: z.enum(channels),
  language: z.enum(['en', 'fr']),
  subject: z.string(),
  preview: z.string(),
  body: z.string(),
  /** The text with its end, as it goes out plain. */
  text: z.string(),
  formatted: z.custom<Doc>().nullable(),
  /** The mail as it is drawn; null of a text message. */
  html: z.string().nullable(),
});

export const messagesContract = contract({
  'GET /api/tray': {
    summary: 'Every message that is to go out, went out or failed',
    who: ['coordinator', 'unit lead', 'crew lead'],
    query: z.object({
      state: z.enum(['coming', 'sent', 'failed', 'held back']).default('coming'),
      eventId: id.optional(),
      /** Part of a name or an address. */
      q: z.string().trim().max(100).default(''),
      /** When it went or is to go, by the clock of the organization. */
      day: date.optional(),
      /** What it is: the name of its line, or its kind. */
      what: z.string().trim().max(80).optional(),
      offset: z.coerce.number().int().min(0).default(0),
    }),
    response: z.object({
      rows: z.array(messageRow),
      counts: z.object({ coming: z.int(), sent: z.int(), failed: z.int(), heldBack: z.int() }),
      more: z.boolean(),
    }),
  },
  'GET /api/tray/whats': {
    summary:
      'What the messages of a part of the Tray are, the most frequent first: lines by their names, and kinds',
    who: ['coordinator', 'unit lead', 'crew lead'],
    query: z.object({
      state: z.enum(['coming', 'sent', 'failed', 'held back']).default('coming'),
      eventId: id.optional(),
    }),
    response: z.array(z.object({ what: z.string(), isLine: z.boolean(), count: z.int() })),
  },
  'GET /api/sending': {
    summary:
      'Whether sending was stopped, of everything or of an event, and how many messages wait for it to go on',
    who: ['coordinator', 'unit lead', 'crew lead'],
    query: z.object({ eventId: id.optional() }),
    response: z.object({
      stopped: z.object({ at: instant, by: z.string() }).nullable(),
      /** Everything was stopped, not this event alone. */
      everything: z.boolean(),
      waiting: z.int(),
    }),
  },
  'PUT /api/sending': {
    summary: 'Stop sending everything, or let it go on',
    who: ['coordinator'],
    body: z.object({ stop: z.boolean() }),
    response: done,
  },
  'PUT /api/events/:id/sending': {
    summary: 'Stop sending what is about an event, or let it go on',
    who: 'staff',
    params: idParams,
    body: z.object({ stop: z.boolean() }),
    response: done,
  },
  'GET /api/messages/:id': {
    summary: 'One message as its recipient gets it',
    who: ['coordinator', 'unit lead', 'crew lead'],
    params: idParams,
    response: messageRow.extend({
      subject: z.string(),
      body: z.string(),
      html: z.string().nullable(),
      headers: z.array(z.object({ name: z.string(), value: z.string() })),
    }),
  },
  'POST /api/messages/:id/retry': {
    summary:
      'Try a message again now that failed or came back; to another email, which is theirs from then on where it is of a contact',
    who: ['coordinator'],
    params: idParams,
    body: z.object({ email: z.string().trim().max(254).optional() }),
    response: z.object({ done: z.literal(true) }),
  },
  'GET /api/events/:id/messages': {
    summary: 'The message plan of an event: per line who gets it and when, and who does not and why',
    who: 'staff',
    params: idParams,
    response: z.array(lineOfPlan),
  },
  'GET /api/events/:id/messages/people': {
    summary:
      'People of an event found by their name or address, with what each gets of every line, or why not',
    who: 'staff',
    params: idParams,
    query: z.object({ q: z.string().max(200).default('') }),
    response: z.array(personOfPlan),
  },
  'GET /api/events/:id/lines/:lineId/now': {
    summary: 'Who would get a line were it sent by hand now',
    who: 'staff',
    params: lineParams,
    response: z.object({ count: z.int(), names: z.array(z.string()) }),
  },
  'POST /api/events/:id/lines/:lineId/send': {
    summary:
      'Send a line now to everybody who is among its people and has not got it; refused where they are not as many as expected',
    who: 'staff',
    params: lineParams,
    body: z.object({ expect: z.int().min(1) }),
    response: z.object({ sent: z.int() }),
  },
  'GET /api/events/:id/lines/:lineId/preview': {
    summary: 'A line as somebody it concerns would get it, or as it is kept where it went out',
    who: 'staff',
    params: lineParams,
    query: z.object({ key: recipientKey }),
    response: previewed,
  },
  'POST /api/events/:id/lines/preview': {
    summary:
      'A line as it is being written, as somebody it would concern would get it: the first of them where nobody is named, else somebody made up',
    who: 'staff',
    params: idParams,
    body: z.object({ line: messageLine, key: recipientKey.optional() }),
    response: previewed.extend({
      /** Whose it is; null of somebody made up. */
      key: recipientKey.nullable(),
      /** Whose it can be. */
      people: z.array(z.object({ key: recipientKey, name: z.string() })),
    }),
  },
  'POST /api/events/:id/lines/:lineId/test': {
    summary: 'Send a line to oneself, as somebody it concerns would get it',
    who: 'staff',
    params: lineParams,
    body: z.object({ key: recipientKey }),
    response: z.object({ address: z.string() }),
  },
});
