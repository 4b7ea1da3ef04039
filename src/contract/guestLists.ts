import { z } from 'zod';
import { contract, done, id, idParams } from './endpoint.ts';

const guestList = z.object({
  name: z.string().max(80).trim().min(1, 'guest-list-unnamed'),
  free: z.boolean().default(false),
  overCapacity: z.boolean().default(false),
});
const shownList = z.object({
  id,
  name: z.string(),
  free: z.boolean(),
  overCapacity: z.boolean(),
  people: z.array(
    z.object({ id, contactId: id, name: z.string(), email: z.string().nullable(), registered: z.boolean() }),
  ),
});
export type GuestList = z.infer<typeof shownList>;
const added = z.object({
  added: z.int(),
  /** Who was on the list before, or stood in the file twice. */
  already: z.int(),
  /** Contacts that were made for it. */
  made: z.int(),
  /** Rows of the file that name nobody, each with why. */
  rejected: z.array(z.object({ line: z.int(), why: z.string() })),
});

export const guestListsContract = contract({
  'GET /api/events/:id/guest-lists': {
    summary: 'The guest lists of an event, with who is on them and who has registered',
    who: ['unit lead'],
    params: idParams,
    response: z.array(shownList),
  },
  'POST /api/events/:id/guest-lists': {
    summary: 'Begin a guest list',
    who: ['unit lead'],
    params: idParams,
    body: guestList,
    response: z.object({ id }),
  },
  'PATCH /api/guest-lists/:id': {
    summary: 'Change what a guest list is called and what it gives',
    who: ['unit lead'],
    params: idParams,
    body: guestList,
    response: done,
  },
  'DELETE /api/guest-lists/:id': {
    summary: 'Remove a guest list; seats that were taken by it stay',
    who: ['unit lead'],
    params: idParams,
    response: done,
  },
  'POST /api/guest-lists/:id/people': {
    limit: '6mb',
    summary: 'Put people on a guest list: from a table, matched with who is on record, or by name',
    who: ['unit lead'],
    ownTransactions: true,
    params: idParams,
    body: z.object({
      contactIds: z.array(id).max(500).default([]),
      /** A table of people with headings. */
      content: z.base64().nullable().default(null),
    }),
    response: added,
  },
  'DELETE /api/guest-lists/:id/people/:person': {
    summary: 'Take somebody off a guest list; a seat they have stays theirs',
    who: ['unit lead'],
    params: z.object({ id, person: id }),
    response: done,
  },
});
