import { z } from 'zod';
import { attributes, textsOf } from '#core/contacts/attributes.ts';
import { consentChannels, consentTopics } from '#core/contacts/consent.ts';
import { membershipWishes, outsideFields, proposable } from '#core/contacts/proposing.ts';
import { code, contract, date, done, id, idParams, instant, token } from './endpoint.ts';

const text = (most: number) => z.string().trim().max(most).nullable();
const details = z.object({
  id,
  given: z.string(),
  family: z.string(),
  birthDate: date.nullable(),
  street: z.string().nullable(),
  postalCode: z.string().nullable(),
  language: z.string(),
  ...textsOf(() => z.string().nullable()),
  /** Fields whose change waits for a decision. */
  waiting: z.array(z.string()),
});
export type OwnDetailsOf = z.infer<typeof details>;

const ownPage = z.object({
  organization: z.string(),
  person: details,
  emails: z.array(z.string()),
  phones: z.array(z.string()),
  memberships: z.array(
    z.object({
      id,
      words: z.string(),
      level: z.string().nullable(),
      from: date.nullable(),
      until: date.nullable(),
      /** What was asked to be changed of it and waits for a decision. */
      waiting: z.array(z.enum(membershipWishes)),
    }),
  ),
  /** Levels that members have here. */
  levels: z.array(z.string()),
  /** The day it is, where the organization is. */
  today: date,
  consents: z.array(
    z.object({
      topic: z.enum(consentTopics),
      channel: z.enum(consentChannels),
      granted: z.boolean().nullable(),
    }),
  ),
  children: z.array(details),
});
export type OwnPage = z.infer<typeof ownPage>;

const proposal = z.object({
  id,
  contactId: id,
  name: z.string(),
  field: z.enum([...proposable, ...membershipWishes, ...outsideFields]),
  /** What a field of one's own is called; null for others. */
  fieldName: z.string().nullable(),
  /** Where it was said: on their own page, or where somebody from outside named them. */
  said: z.string(),
  /** Of a guardian: their contact. */
  otherContactId: id.nullable(),
  before: z.string(),
  after: z.string().nullable(),
  at: instant,
});

/** A public link that leads to something of a contact. The link itself is never told: it is as good as a password. */
const ownedLink = z.object({
  kind: z.enum(['own', 'manage', 'seat', 'crew', 'survey', 'feed', 'application']),
  subjectId: id,
  /** What it leads to: "Booking for Open Water Day". */
  about: z.string(),
  madeAt: instant,
  stoppedAt: instant.nullable(),
});
export type OwnedLink = z.infer<typeof ownedLink>;

export const ownContract = contract({
  'GET /api/contacts/:id/links': {
    summary: 'The public links that lead to something of a contact, and which of them are stopped',
    who: ['coordinator'],
    params: idParams,
    response: z.array(ownedLink),
  },
  'POST /api/contacts/:id/links': {
    summary: 'Stop a public link, or put another in its place; the old one leads nowhere from then on',
    who: ['coordinator'],
    params: idParams,
    body: z.object({ kind: ownedLink.shape.kind, subjectId: id, renew: z.boolean() }),
    response: done,
  },
  'POST /api/contacts/:id/own-link': {
    summary: 'Send somebody the link to their own page',
    who: ['coordinator', 'crew lead'],
    params: idParams,
    response: z.object({ sentTo: z.string() }),
  },
  'GET /api/public/own/:token': {
    summary: 'What is held about the person of a link, and about the children in their care',
    who: 'public',
    params: token,
    response: ownPage,
  },
  'POST /api/public/own/:token/details': {
    summary:
      'Change own details, or those of a child: blanks and own matters at once; what contradicts the records waits for a decision',
    who: 'public',
    params: token,
    body: z.object({
      contactId: id,
      given: text(100).optional(),
      family: text(100).optional(),
      birthDate: date.nullable().optional(),
      street: text(200).optional(),
      postalCode: text(20).optional(),
      ...textsOf((key) => text(attributes[key].text.most).optional()),
      language: z.enum(['en', 'fr']).optional(),
      addEmail: text(254).optional(),
      addPhone: text(40).optional(),
    }),
    response: z.object({ changed: z.int(), waiting: z.int() }),
  },
  'POST /api/public/own/:token/memberships/:id': {
    summary: 'Ask to have another level of membership, or to end it; staff decide',
    who: 'public',
    params: z.object({ token: token.shape.token, id }),
    body: z.object({
      level: z.string().trim().min(1, code('level-of-the-list')).max(80).optional(),
      endsOn: date.optional(),
    }),
    response: z.object({ waiting: z.int() }),
  },
  'POST /api/public/own/:token/consents': {
    summary: 'Say yes or no to a topic by a channel',
    who: 'public',
    params: token,
    body: z.object({ topic: z.enum(consentTopics), channel: z.enum(consentChannels), granted: z.boolean() }),
    response: done,
  },
  'GET /api/proposals': {
    summary: 'Changes that people asked for and that wait for a decision',
    who: ['coordinator'],
    response: z.array(proposal),
  },
  'POST /api/proposals/:id/decide': {
    summary: 'Take a change over, or leave the record as it is',
    who: ['coordinator'],
    params: idParams,
    body: z.object({ accept: z.boolean() }),
    response: done,
  },
});
