import { z } from 'zod';
import { textKeys, textsOf } from '#core/contacts/attributes.ts';
import { levels } from '#core/contacts/comparing.ts';
import { contract, done, id, idParams, instant } from './endpoint.ts';

const field = z.enum(Object.keys(levels) as (keyof typeof levels)[]);

/** One of two contacts side by side, with what hangs on it. */
const side = z.object({
  id,
  given: z.string(),
  family: z.string(),
  emails: z.array(z.string()),
  phones: z.array(z.string()),
  birthDate: z.string().nullable(),
  street: z.string().nullable(),
  postalCode: z.string().nullable(),
  language: z.string(),
  ...textsOf(() => z.string().nullable()),
  doNotContact: z.boolean(),
  household: z.boolean(),
  source: z.string(),
  createdAt: instant,
  seats: z.int(),
  attended: z.int(),
  shifts: z.int(),
  gifts: z.int(),
  lastSeen: instant.nullable(),
});
export type PairSide = z.infer<typeof side>;

const pair = z.object({
  id,
  probability: z.number(),
  outcome: z.enum(['same', 'look']),
  held: z.string().nullable(),
  foundBy: z.string(),
  findings: z.array(z.object({ field, words: z.string(), bits: z.number() })),
  a: side,
  b: side,
});
export type Pair = z.infer<typeof pair>;

/** Fields of which the merged contact has one value, taken from one side. */
const mergeFields = ['name', 'birthDate', 'address', 'language', ...textKeys] as const;
export type MergeField = (typeof mergeFields)[number];
const chosen = z.partialRecord(z.enum(mergeFields), z.enum(['kept', 'merged']));

const thresholds = z.object({ same: z.number().min(0.5).max(0.9999), look: z.number().min(0.01).max(0.95) });

export const pairsContract = contract({
  'GET /api/pairs': {
    summary:
      'Contacts that may be one person, likeliest first, and how many there are on each side of the lines',
    who: ['coordinator'],
    query: z.object({
      offset: z.coerce.number().int().min(0).default(0),
      limit: z.coerce.number().int().min(1).max(200).default(50),
    }),
    response: z.object({
      pairs: z.array(pair),
      open: z.int(),
      decided: z.int(),
      thresholds,
      /** Open pairs by probability in hundredths, so that moving a line shows its effect at once. */
      histogram: z.array(z.int()).length(100),
      /** Open pairs that are the same beyond doubt and held back by nothing, by probability. */
      sure: z.array(z.number()),
      looking: z.object({ running: z.boolean(), done: z.int(), all: z.int(), found: z.int() }),
    }),
  },
  'POST /api/pairs/look': {
    summary: 'Compare all contacts again in the background',
    who: ['coordinator'],
    ownTransactions: true,
    response: done,
  },
  'PUT /api/pairs/thresholds': {
    summary: 'Move the lines from which records are linked, or put up for a look',
    who: ['coordinator'],
    body: thresholds.refine((t) => t.look < t.same, {
      path: ['look'],
      message: 'lines-crossed',
    }),
    response: thresholds,
  },
  'POST /api/pairs/:id/decide': {
    summary: 'Say that two contacts are the same person (and merge them), different, or of one household',
    who: ['coordinator'],
    params: idParams,
    body: z.object({
      decision: z.enum(['same', 'different', 'household']),
      /** The contact that stays, when they are the same. */
      keep: id.optional(),
      chosen: chosen.default({}),
    }),
    response: z.object({ mergeId: id.nullable() }),
  },
  'POST /api/pairs/:id/reopen': {
    summary: 'Take a decision back that did not merge',
    who: ['coordinator'],
    params: idParams,
    response: done,
  },
  'POST /api/pairs/merge-sure': {
    summary:
      'Merge every open pair that is the same from the given probability on and is held back by nothing',
    who: ['coordinator'],
    body: z.object({ from: z.number().min(0.9).max(1) }),
    response: z.object({ merged: z.int(), mergeIds: z.array(id) }),
  },
  'POST /api/contacts/:id/merge': {
    summary: 'Merge another contact into this one',
    who: ['coordinator'],
    params: idParams,
    body: z.object({ other: id, chosen: chosen.default({}) }),
    response: z.object({ mergeId: id }),
  },
  'POST /api/merges/:id/undo': {
    summary:
      'Take a merge apart: everything goes back where it was; what came since goes to the one whose name it carries, else stays',
    who: ['coordinator'],
    params: idParams,
    response: z.object({ contactId: id, back: z.int(), since: z.int(), left: z.array(z.string()) }),
  },
});
