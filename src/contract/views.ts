import { z } from 'zod';
import { contactKinds, contactOrders } from '#core/contacts/listing.ts';
import { contract, done, id, idParams } from './endpoint.ts';

/** How the table of contacts is looked at: what is filtered, sorted and shown. */
const filter = z.object({
  q: z.string().max(200).default(''),
  tag: z.string().max(60).default(''),
  kind: z.enum(contactKinds).nullable().default(null),
  segment: id.nullable().default(null),
  sort: z.enum(contactOrders).default('name'),
  reverse: z.boolean().default(false),
  hidden: z.array(z.string().max(40)).max(40).default([]),
});
export type ContactFilter = z.infer<typeof filter>;

const view = z.object({
  id,
  name: z.string(),
  /** Seen by the whole team, or only by who made it. */
  shared: z.boolean(),
  mine: z.boolean(),
  filter,
});
export type View = z.infer<typeof view>;

const who = ['coordinator', 'treasurer', 'crew lead'] as const;
const name = z.string().trim().min(1, 'view-unnamed').max(60);
export const viewsContract = contract({
  'GET /api/views': {
    summary: 'Views of the contacts: one’s own and the team’s',
    who,
    response: z.array(view),
  },
  'POST /api/views': {
    summary: 'Keep a view under a name; the same name again changes it',
    who,
    body: z.object({ name, shared: z.boolean().default(false), filter }),
    response: z.object({ id }),
  },
  'DELETE /api/views/:id': {
    summary: 'Throw a view away',
    who,
    params: idParams,
    response: done,
  },
});
