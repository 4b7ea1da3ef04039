import { z } from 'zod';
import { amount, contract, date, id, idParams, instant, personName } from './endpoint.ts';

export const contactLine = z.object({
  id,
  given: z.string(),
  family: z.string(),
  email: z.string().nullable(),
  phone: z.string().nullable(),
  postalCode: z.string().nullable(),
  lastSeen: instant.nullable(),
});
export type ContactLine = z.infer<typeof contactLine>;

const person = personName.extend({
  email: z.string().trim().max(254).nullable().default(null),
  phone: z.string().trim().max(40).nullable().default(null),
  birthDate: date.nullable().default(null),
  street: z.string().trim().max(200).nullable().default(null),
  postalCode: z.string().trim().max(20).nullable().default(null),
  dietary: z.string().trim().max(500).nullable().default(null),
  language: z.enum(['en', 'fr']).default('en'),
  doNotContact: z.boolean().default(false),
});

export const lifelineKinds = [
  'registration',
  'attendance',
  'money',
  'shift',
  'waiver',
  'message',
  'survey',
  'record',
] as const;
export const lifelineEntry = z.object({
  at: instant,
  kind: z.enum(lifelineKinds),
  text: z.string(),
  detail: z.string(),
  eventId: id.nullable(),
  eventTitle: z.string().nullable(),
});
export type LifelineEntry = z.infer<typeof lifelineEntry>;

export const contactRecord = z.object({
  id,
  given: z.string(),
  family: z.string(),
  emails: z.array(z.object({ email: z.string(), bounced: z.boolean() })),
  phones: z.array(z.string()),
  birthDate: date.nullable(),
  age: z.int().nullable(),
  street: z.string().nullable(),
  postalCode: z.string().nullable(),
  dietary: z.string().nullable(),
  language: z.string(),
  doNotContact: z.boolean(),
  source: z.string(),
  createdAt: instant,
  memberships: z.array(
    z.object({ number: z.string().nullable(), level: z.string().nullable(), since: z.string().nullable() }),
  ),
  related: z.array(
    z.object({
      relation: z.string(),
      contactId: id.nullable(),
      name: z.string(),
      phone: z.string().nullable(),
    }),
  ),
  totals: z.object({
    attended: z.int(),
    missed: z.int(),
    coming: z.int(),
    hours: z.number(),
    givenThisYear: amount,
    givenEver: amount,
    firstSeen: instant.nullable(),
    lastSeen: instant.nullable(),
  }),
});
export type ContactRecord = z.infer<typeof contactRecord>;

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
    query: z.object({
      q: z.string().max(200).default(''),
      sort: z.enum(['name', 'seen']).default('name'),
      offset: z.coerce.number().int().min(0).default(0),
      limit: z.coerce.number().int().min(1).max(500).default(200),
    }),
    response: z.object({ contacts: z.array(contactLine), total: z.int() }),
  },
  'POST /api/contacts': {
    summary: 'Add a contact; answers the existing one when it is the same person',
    who: ['coordinator', 'crew lead'],
    body: person,
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
      dietary: z.string().trim().max(500).nullable().optional(),
      doNotContact: z.boolean().optional(),
      addEmail: z.string().trim().max(254).optional(),
      addPhone: z.string().trim().max(40).optional(),
    }),
    response: contactRecord,
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
