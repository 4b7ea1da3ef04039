import { z } from 'zod';
import { contactLine } from './contacts.ts';
import { contract, done, id, idParams, instant } from './endpoint.ts';

/** Questions joined by all, any and not; read and checked by core/records/segment.ts. */
const segment = z.record(z.string(), z.unknown());
const name = z.string().trim().min(1, 'segment-unnamed').max(120);

const summary = z.object({
  id,
  name: z.string(),
  segment,
  sentence: z.string(),
  frozenAt: instant.nullable(),
  /** Contacts put together by hand: there are no questions. */
  byHand: z.boolean(),
  /** How many are in it by now; null when that takes too long or cannot be asked. */
  count: z.int().nullable(),
  updatedAt: instant,
});
export type SegmentSummary = z.infer<typeof summary>;

/** One question or group of why somebody is in a segment or not. */
const reasoned = z.object({
  depth: z.int(),
  holds: z.boolean(),
  words: z.string(),
  found: z.string().nullable(),
});
export type SegmentReason = z.infer<typeof reasoned>;

const named = z.array(z.object({ id, name: z.string() }));
/** What questions can be asked about: everything the organization has a name for. */
const choices = z.object({
  units: named,
  funds: named,
  waivers: named,
  fields: named,
  organizations: named,
  series: z.array(z.object({ id, title: z.string() })),
  categories: z.array(z.string()),
  levels: z.array(z.string()),
  unitRoles: z.array(z.string()),
  languages: z.array(z.string()),
});
export type SegmentChoices = z.infer<typeof choices>;

const who = ['coordinator', 'treasurer', 'crew lead'] as const;
export const recordsContract = contract({
  'GET /api/segments': {
    summary: 'Segments with their sentence and count',
    who,
    response: z.array(summary),
  },
  'POST /api/segments': {
    limit: '6mb',
    summary: 'Keep a segment: questions, or just these contacts, frozen',
    who,
    body: z.object({
      name,
      segment: segment.default({ all: [] }),
      ids: z.array(id).min(1).max(100_000).optional(),
    }),
    response: z.object({ id }),
  },
  'GET /api/segments/choices': { summary: 'What a segment can ask about', who, response: choices },
  'GET /api/segments/:id': { summary: 'One segment', who, params: idParams, response: summary },
  'PATCH /api/segments/:id': {
    summary: 'Change a segment, freeze it as it is today, or let it live again',
    who,
    params: idParams,
    ownTransactions: true,
    body: z.object({ name: name.optional(), segment: segment.optional(), frozen: z.boolean().optional() }),
    response: summary,
  },
  'DELETE /api/segments/:id': { summary: 'Throw a segment away', who, params: idParams, response: done },
  'POST /api/segments/:id/members': {
    limit: '6mb',
    summary:
      'Put contacts into a frozen segment, or take them out; answers whom that changed, so that it can be undone',
    who,
    params: idParams,
    body: z.object({ ids: z.array(id).min(1).max(100_000), remove: z.boolean().default(false) }),
    response: z.object({ changed: z.array(id) }),
  },
  'POST /api/segments/count': {
    summary: 'How many people a segment has, who for example, and what it says in words',
    who,
    ownTransactions: true,
    body: z.object({ segment }),
    response: z.object({
      count: z.int(),
      of: z.int(),
      sample: z.array(contactLine),
      sentence: z.string(),
      ms: z.int(),
    }),
  },
  'POST /api/segments/why': {
    summary: 'Why somebody is in a segment, or why not, question by question',
    who,
    ownTransactions: true,
    body: z.object({ segment, contactId: id }),
    response: z.object({ holds: z.boolean(), name: z.string(), reasons: z.array(reasoned) }),
  },
  'GET /api/segments/:id/contacts': {
    summary: 'Everybody in a segment',
    who,
    params: idParams,
    query: z.object({
      offset: z.coerce.number().int().min(0).default(0),
      limit: z.coerce.number().int().min(1).max(500).default(500),
    }),
    response: z.object({ contacts: z.array(contactLine), total: z.int() }),
  },
  'GET /api/segments/:id/compare/:other': {
    summary: 'How two segments overlap',
    who,
    params: z.object({ id, other: id }),
    response: z.object({ both: z.int(), onlyThis: z.int(), onlyOther: z.int() }),
  },
  'GET /api/segments/:id/contacts.csv': {
    summary: 'Everybody in a segment as a table',
    who: ['coordinator'],
    params: idParams,
    response: { file: 'text/csv' },
  },
  'GET /api/segments/:id/contacts.vcf': {
    summary: 'Everybody in a segment as an address book (vCard 4.0)',
    who: ['coordinator'],
    params: idParams,
    response: { file: 'text/vcard' },
  },
});
