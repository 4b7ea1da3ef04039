import { z } from 'zod';
import { contactParts } from '#core/access/contacts.ts';
import { attributes, textsOf } from '#core/contacts/attributes.ts';
import { consentChannels, consentTopics } from '#core/contacts/consent.ts';
import { lifelineKinds } from '#core/contacts/lifeline.ts';
import { contactKinds, contactOrders } from '#core/contacts/listing.ts';
import { quietReasons } from '#core/contacts/quiet.ts';
import { contract, date, done, id, idParams, instant, money, personName } from './endpoint.ts';
import { customField } from './fields.ts';
import { inRole, tie } from './ties.ts';

export const contactLine = z.object({
  id,
  kind: z.enum(contactKinds),
  given: z.string(),
  family: z.string(),
  email: z.string().nullable(),
  phone: z.string().nullable(),
  /** Null too where they moved away. */
  postalCode: z.string().nullable(),
  lastSeen: instant.nullable(),
  addedAt: instant,
  tags: z.array(z.string()),
  /** Why nothing is sent to them: they asked for it, or died. */
  quiet: z.enum(quietReasons).nullable(),
  moved: z.boolean(),
});
export type ContactLine = z.infer<typeof contactLine>;

/** What an email or a telephone is for; empty where nobody said. */
export const emailKinds = ['', 'home', 'work', 'other'] as const;
export const phoneKinds = ['', 'mobile', 'home', 'work', 'other'] as const;

/** A note about somebody; with a day it is due it is a task. */
const contactNote = z.object({
  id,
  /** The account that wrote it; null where that is not known. */
  authorId: id.nullable(),
  text: z.string(),
  author: z.string(),
  at: instant,
  dueOn: date.nullable(),
  doneAt: instant.nullable(),
});
export type ContactNote = z.infer<typeof contactNote>;
const noteText = z.string().trim().min(1, 'nothing-written').max(2000);
const tag = z.string().trim().toLowerCase().min(1, 'tag-empty').max(60, 'tag-too-long');

const person = personName.extend({
  email: z.string().trim().max(254).nullable().default(null),
  phone: z.string().trim().max(40).nullable().default(null),
  birthDate: date.nullable().default(null),
  street: z.string().trim().max(200).nullable().default(null),
  postalCode: z.string().trim().max(20).nullable().default(null),
  ...textsOf((key) => z.string().trim().max(attributes[key].text.most).nullable().default(null)),
  language: z.enum(['en', 'fr']).default('en'),
  doNotContact: z.boolean().default(false),
});

const consent = z.object({
  topic: z.string(),
  channel: z.enum(consentChannels),
  granted: z.boolean(),
  source: z.string(),
  at: instant,
});
export type Consent = z.infer<typeof consent>;

const lifelineEntry = z.object({
  at: instant,
  kind: z.enum(lifelineKinds),
  text: z.string(),
  detail: z.string(),
  eventId: id.nullable(),
  eventTitle: z.string().nullable(),
});
export type LifelineEntry = z.infer<typeof lifelineEntry>;

const contactRecord = z.object({
  id,
  kind: z.enum(contactKinds),
  given: z.string(),
  family: z.string(),
  emails: z.array(
    z.object({
      email: z.string(),
      kind: z.enum(emailKinds),
      bounced: z.boolean(),
      /** The day from which it is no longer theirs. */
      endedOn: date.nullable(),
    }),
  ),
  phones: z.array(z.object({ phone: z.string(), kind: z.enum(phoneKinds), endedOn: date.nullable() })),
  birthDate: date.nullable(),
  age: z.int().nullable(),
  street: z.string().nullable(),
  postalCode: z.string().nullable(),
  /** The day from which they no longer live at the address. */
  movedOn: date.nullable(),
  ...textsOf(() => z.string().nullable()),
  language: z.string(),
  /** Others they read, as language tags. */
  languages: z.array(z.string()),
  /** The time zone they live in; null where nobody said. */
  zone: z.string().nullable(),
  doNotContact: z.boolean(),
  deceasedOn: date.nullable(),
  source: z.string(),
  createdAt: instant,
  /** Memberships, roles in units, and where they work. */
  ties: z.array(tie),
  /** Of an organization: who is with it. */
  people: z.array(inRole),
  /** Fields the organization added, with what they have in each. */
  fields: z.array(customField.omit({ filled: true }).extend({ value: z.string().nullable() })),
  /** When the photo was put there; null without one. */
  photoAt: instant.nullable(),
  related: z.array(
    z.object({
      relation: z.string(),
      contactId: id.nullable(),
      name: z.string(),
      phone: z.string().nullable(),
    }),
  ),
  totals: z.object({
    attended: z.int().nullable(),
    missed: z.int().nullable(),
    coming: z.int().nullable(),
    hours: z.number().nullable(),
    givenThisYear: z.array(money).nullable(),
    givenEver: z.array(money).nullable(),
    firstSeen: instant.nullable(),
    lastSeen: instant.nullable(),
  }),
  erasedAt: instant.nullable(),
  /** Parts that the asker does not see; their fields are empty. */
  hidden: z.array(z.enum(contactParts)),
  /** The last word on every topic and channel. */
  consents: z.array(consent),
  tags: z.array(z.string()),
  notes: z.array(contactNote),
  /** Who is usually there when they are: at how many of the events they attended. */
  companions: z.array(z.object({ contactId: id, name: z.string(), times: z.int() })),
  /** Merges into this contact that can be taken apart. */
  merges: z.array(z.object({ id, at: instant, actor: z.string(), name: z.string() })),
});
export type ContactRecord = z.infer<typeof contactRecord>;

/** What contacts are listed by; what is not said does not matter. */
const contactQuery = z.object({
  q: z.string().max(200).default(''),
  tag: z.string().max(60).optional(),
  kind: z.enum(contactKinds).optional(),
  segment: id.optional(),
});
export type ContactQuery = z.infer<typeof contactQuery>;

export const contactsContract = contract({
  'GET /api/search': {
    summary: 'Find contacts and events by parts of names, emails and telephone digits',
    who: 'staff',
    query: z.object({ q: z.string().max(200).default('') }),
    response: z.object({
      contacts: z.array(contactLine),
      events: z.array(
        z.object({ id, title: z.string(), startsLocal: z.string().nullable(), state: z.string() }),
      ),
    }),
  },
  'GET /api/contacts': {
    summary: 'The contact list, sorted by family name, filtered by a search',
    who: ['coordinator', 'treasurer', 'crew lead'],
    query: contactQuery.extend({
      sort: z.enum(contactOrders).default('name'),
      /** The other way round than usual: names from Z, the longest not seen first. */
      reverse: z.stringbool().default(false),
      offset: z.coerce.number().int().min(0).default(0),
      limit: z.coerce.number().int().min(1).max(500).default(200),
    }),
    response: z.object({ contacts: z.array(contactLine), total: z.int() }),
  },
  'GET /api/contacts.csv': {
    summary: 'All contacts as a table that can be brought in again without a change',
    who: ['coordinator'],
    response: { file: 'text/csv' },
  },
  'GET /api/contacts.vcf': {
    summary: 'All contacts as an address book (vCard 4.0) that can be brought in again without a change',
    who: ['coordinator'],
    response: { file: 'text/vcard' },
  },
  'GET /api/contacts/ids': {
    summary: 'Everybody a filter finds, to be chosen together',
    who: ['coordinator', 'treasurer', 'crew lead'],
    query: contactQuery,
    response: z.object({ ids: z.array(id) }),
  },
  'POST /api/contacts/chosen.csv': {
    limit: '6mb',
    summary: 'Some contacts as a table; whoever nothing may be sent to is left out',
    who: ['coordinator'],
    ownTransactions: true,
    body: z.object({ ids: z.array(id).min(1).max(100_000) }),
    response: { file: 'text/csv' },
  },
  'POST /api/contacts/chosen.vcf': {
    limit: '6mb',
    summary: 'Some contacts as an address book (vCard 4.0); whoever nothing may be sent to is left out',
    who: ['coordinator'],
    ownTransactions: true,
    body: z.object({ ids: z.array(id).min(1).max(100_000) }),
    response: { file: 'text/vcard' },
  },
  'POST /api/contacts/:id/consents': {
    summary: 'Write down what somebody said about a topic, by which channel',
    who: ['coordinator', 'crew lead'],
    params: idParams,
    body: z.object({ topic: z.enum(consentTopics), channel: z.enum(consentChannels), granted: z.boolean() }),
    response: done,
  },
  'GET /api/contacts/:id/everything.json': {
    summary: 'Everything held about a person',
    who: ['coordinator'],
    params: idParams,
    response: { file: 'application/json' },
  },
  'GET /api/contacts/:id/everything.csv': {
    summary: 'The lifeline of a person as a table',
    who: ['coordinator'],
    params: idParams,
    response: { file: 'text/csv' },
  },
  'GET /api/contacts/:id/erasure': {
    summary: 'What erasing a person would take away, and what would be kept and why',
    who: ['coordinator'],
    params: idParams,
    response: z.object({ goes: z.array(z.string()), kept: z.array(z.string()) }),
  },
  'POST /api/contacts/:id/erase': {
    summary: 'Erase a person for good; money and counts stay without them',
    who: ['coordinator'],
    params: idParams,
    body: z.object({ name: z.string().max(250) }),
    response: z.object({ kept: z.array(z.string()) }),
  },
  'GET /api/tags': {
    summary: 'Tags in use, with how many contacts have each',
    who: ['coordinator', 'treasurer', 'crew lead'],
    response: z.array(z.object({ tag: z.string(), contacts: z.int() })),
  },
  'POST /api/tags': {
    summary: 'Add a tag to contacts, or take it off; answers whom that changed, so that it can be undone',
    who: ['coordinator', 'crew lead'],
    body: z.object({ tag, ids: z.array(id).min(1).max(5000), remove: z.boolean().default(false) }),
    response: z.object({ changed: z.array(id) }),
  },
  'POST /api/contacts/:id/notes': {
    summary: 'Write a note about somebody; with a day it is due it reaches the Desk',
    who: 'staff',
    params: idParams,
    body: z.object({ text: noteText, dueOn: date.nullable().default(null) }),
    response: contactNote,
  },
  'PATCH /api/notes/:id': {
    summary: 'Change a note, or tick a task off',
    who: 'staff',
    params: idParams,
    body: z.object({
      text: noteText.optional(),
      dueOn: date.nullable().optional(),
      done: z.boolean().optional(),
    }),
    response: contactNote,
  },
  'DELETE /api/notes/:id': {
    summary: 'Take a note away',
    who: 'staff',
    params: idParams,
    response: contactNote,
  },
  'POST /api/contacts': {
    summary: 'Add a contact; answers the existing one when it is the same person or organization',
    who: ['coordinator', 'crew lead'],
    body: person.extend({ kind: z.enum(contactKinds).default('person') }),
    response: z.object({ id, existed: z.boolean(), reasons: z.array(z.string()) }),
  },
  'GET /api/contacts/:id': {
    summary: 'One contact with totals',
    who: 'staff',
    params: idParams,
    response: contactRecord,
  },
  'PATCH /api/contacts/:id': {
    summary: "Change a contact's own fields",
    who: ['coordinator', 'crew lead'],
    params: idParams,
    body: z.object({
      given: z.string().trim().max(100).optional(),
      family: z.string().trim().max(100).optional(),
      birthDate: date.nullable().optional(),
      street: z.string().trim().max(200).nullable().optional(),
      postalCode: z.string().trim().max(20).nullable().optional(),
      ...textsOf((key) => z.string().trim().max(attributes[key].text.most).nullable().optional()),
      movedOn: date.nullable().optional(),
      doNotContact: z.boolean().optional(),
      language: z.enum(['en', 'fr']).optional(),
      languages: z
        .array(z.string().regex(/^[a-z]{2,3}$/u, 'no-language'))
        .max(10, 'most-languages')
        .optional(),
      zone: z.string().trim().max(64).nullable().optional(),
      /** Fields of our own, as typed, by their id; empty takes a value away. */
      fields: z.record(id, z.string().max(600)).optional(),
      deceasedOn: date.nullable().optional(),
      /** All of them, the first one written to first; what is missing is taken away. */
      emails: z
        .array(
          z.object({
            email: z.string().trim().max(254),
            kind: z.enum(emailKinds).default(''),
            endedOn: date.nullable().default(null),
          }),
        )
        .max(10, 'most-emails')
        .optional(),
      phones: z
        .array(
          z.object({
            phone: z.string().trim().max(40),
            kind: z.enum(phoneKinds).default(''),
            endedOn: date.nullable().default(null),
          }),
        )
        .max(10, 'most-telephones')
        .optional(),
    }),
    response: contactRecord,
  },
  'GET /api/contacts/:id/photo': {
    summary: 'The photo of a contact',
    who: 'staff',
    params: idParams,
    response: { file: 'image/jpeg' },
  },
  'PUT /api/contacts/:id/photo': {
    limit: '28mb',
    summary:
      'Put a photo there: a picture of at most 20 MB and 50 megapixels; made smaller, and without what the camera wrote into it',
    who: ['coordinator', 'crew lead'],
    ownTransactions: true,
    params: idParams,
    /** The file as base64. */
    body: z.object({ content: z.string().min(1, 'not-a-picture') }),
    response: done,
  },
  'DELETE /api/contacts/:id/photo': {
    summary: 'Take the photo away',
    who: ['coordinator', 'crew lead'],
    params: idParams,
    response: done,
  },
  'GET /api/contacts/:id/lifeline': {
    summary: 'Everything about one person, newest first',
    who: 'staff',
    params: idParams,
    query: z.object({
      kind: z.enum(lifelineKinds).optional(),
      offset: z.coerce.number().int().min(0).default(0),
    }),
    response: z.object({ entries: z.array(lifelineEntry), more: z.boolean() }),
  },
});
