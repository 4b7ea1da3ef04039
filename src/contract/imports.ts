import { z } from 'zod';
import { importFields, policies, rowVerdicts } from '#core/imports/importing.ts';
import { columnMeanings, type FieldMeaning } from '#core/imports/mapping.ts';
import { rowParts } from '#core/imports/rows.ts';
import { contract, done, id, idParams, instant } from './endpoint.ts';

export const importStates = [
  'checking',
  'checked',
  'applying',
  'applied',
  'undoing',
  'undone',
  'cancelled',
] as const;

/** A field of the organization's own, by its id. */
const fieldMeaning = z.templateLiteral(['field ', z.uuid()]) as unknown as z.ZodType<FieldMeaning>;
const mapping = z.object({
  columns: z.array(z.union([z.enum(columnMeanings), fieldMeaning])).max(100),
  /** The order of day and month in dated columns; `ask` where the file does not tell. */
  dateOrders: z.array(z.enum(['day first', 'month first', 'ask']).nullable()).max(100),
});
const choices = z.object({
  policies: z.partialRecord(z.enum(importFields), z.enum(policies)),
  widenConsent: z.boolean(),
});
const counts = z.object({
  new: z.int(),
  changes: z.int(),
  same: z.int(),
  look: z.int(),
  rejected: z.int(),
});

const importSummary = z.object({
  id,
  fileName: z.string(),
  state: z.enum(importStates),
  encoding: z.string(),
  delimiter: z.string(),
  headingLine: z.int(),
  headings: z.array(z.string()),
  mapping,
  /** How sure the proposed meaning of each column is, 0 to 1. */
  confidence: z.array(z.number()),
  choices,
  counts,
  /** Rows checked so far, of all. */
  doneRows: z.int(),
  allRows: z.int(),
  createdAt: instant,
  appliedAt: instant.nullable(),
  undoneAt: instant.nullable(),
  appliedBefore: z.object({ id, at: instant }).nullable(),
  /** The earlier import of a file that looks alike, whose mapping was taken over. */
  mappingFrom: z.object({ fileName: z.string(), at: instant }).nullable(),
  /** Contacts changed since the check: it runs again before it can be applied. */
  stale: z.boolean(),
  /** What undoing left alone, and why. */
  kept: z.array(z.string()),
  sample: z.array(z.array(z.string())),
});
export type ImportSummary = z.infer<typeof importSummary>;

const importRow = z.object({
  line: z.int(),
  /** The line of the file, where this is a further person that it names. */
  ofLine: z.int().nullable(),
  part: z.enum(rowParts),
  verdict: z.enum(rowVerdicts),
  reasons: z.array(z.string()),
  /** Whether somebody said who it is. */
  decided: z.boolean(),
  cells: z.array(z.string()),
  name: z.string(),
  email: z.string().nullable(),
  phone: z.string().nullable(),
  contactId: id.nullable(),
  contactName: z.string().nullable(),
  sameAsLine: z.int().nullable(),
  excluded: z.boolean(),
  probability: z.number().nullable(),
  changes: z.array(
    z.object({
      field: z.enum(importFields),
      before: z.string().nullable(),
      after: z.string(),
      applied: z.boolean(),
      why: z.string().nullable(),
    }),
  ),
});
export type ImportRow = z.infer<typeof importRow>;

export const importsContract = contract({
  'GET /api/imports': {
    summary: 'Imports, newest first',
    who: ['coordinator'],
    response: z.array(importSummary),
  },
  'POST /api/imports': {
    limit: '28mb',
    ownTransactions: true,
    summary:
      'Read a table or an address book, propose its columns and begin to check every row in the background, without changing anything',
    who: ['coordinator'],
    body: z.object({ fileName: z.string().max(200), content: z.base64() }),
    response: importSummary,
  },
  'GET /api/imports/:id': {
    summary: 'One import, with how far its check is',
    who: ['coordinator'],
    params: idParams,
    response: importSummary,
  },
  'GET /api/imports/:id/stream': {
    summary: 'Says how far applying or undoing is: done and all, as server-sent events',
    who: ['coordinator'],
    params: idParams,
    response: { file: 'text/event-stream' },
  },
  'GET /api/imports/:id/rows': {
    summary: 'What would become, or became, of every row',
    who: ['coordinator'],
    params: idParams,
    query: z.object({
      verdict: z.enum(rowVerdicts).optional(),
      q: z.string().max(200).default(''),
      offset: z.coerce.number().int().min(0).default(0),
      limit: z.coerce.number().int().min(1).max(1000).default(500),
    }),
    response: z.object({ rows: z.array(importRow), total: z.int() }),
  },
  'GET /api/imports/:id/rejected.csv': {
    summary: 'The rejected rows as they were, with why',
    who: ['coordinator'],
    params: idParams,
    response: { file: 'text/csv' },
  },
  'PUT /api/imports/:id/mapping': {
    ownTransactions: true,
    summary: 'Say what the columns mean and whose values count, and check every row again',
    who: ['coordinator'],
    params: idParams,
    body: mapping.extend({ choices: choices.optional() }),
    response: importSummary,
  },
  'PATCH /api/imports/:id/rows/:line': {
    ownTransactions: true,
    summary: 'Put cells of one row right, leave it out, or say who it is; the row is checked again',
    who: ['coordinator'],
    params: z.object({ id, line: z.coerce.number().int().min(0) }),
    body: z.object({
      cells: z.record(z.string().regex(/^\d{1,3}$/u), z.string().max(20_000)).optional(),
      excluded: z.boolean().optional(),
      decision: z
        .union([z.literal('new'), id])
        .nullable()
        .optional(),
    }),
    response: importRow,
  },
  'POST /api/imports/:id/cancel': {
    summary: 'Stop a check that is under way; nothing was changed',
    who: ['coordinator'],
    params: idParams,
    response: done,
  },
  'POST /api/imports/:id/apply': {
    summary:
      'Apply a checked import, in lots between which others have their turn; cut short, it goes on by itself',
    ownTransactions: true,
    who: ['coordinator'],
    params: idParams,
    response: importSummary,
  },
  'POST /api/imports/:id/undo': {
    ownTransactions: true,
    summary: 'Take an applied import back; what was changed or used since is left alone and named',
    who: ['coordinator'],
    params: idParams,
    response: z.object({ removed: z.int(), restored: z.int(), kept: z.array(z.string()) }),
  },
  'DELETE /api/imports/:id': {
    summary: 'Throw a checked import away',
    who: ['coordinator'],
    params: idParams,
    response: done,
  },
});
