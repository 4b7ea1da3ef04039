import { z } from 'zod';
import { kindColours, kindShapes } from '#core/events/kinds.ts';
import { contract, done, id, idParams } from './endpoint.ts';
import { shownPicture } from './pictures.ts';

export const kindMark = z.object({
  shape: z.union([z.enum(kindShapes), z.literal('')]),
  colour: z.union([z.enum(kindColours), z.literal('')]),
});
const body = kindMark.extend({
  sort: z.enum(['category', 'draw']),
  name: z.string().trim().min(1, 'name-needed').max(60),
  french: z.string().trim().max(60).default(''),
  shape: kindMark.shape.shape.default(''),
  colour: kindMark.shape.colour.default(''),
  pictureId: id.nullable().default(null),
});
const kind = body.extend({
  id,
  picture: shownPicture.nullable(),
  /** Events that are of this kind, or draw people by it. */
  events: z.int(),
});
export type Kind = z.output<typeof kind>;

export const kindsContract = contract({
  'GET /api/kinds': {
    summary: 'Kinds of events, and what draws people to them',
    who: 'staff',
    response: z.array(kind),
  },
  'POST /api/kinds': {
    summary: 'Add a kind of event, or something that draws people',
    who: ['coordinator'],
    body,
    response: z.object({ id }),
  },
  'PATCH /api/kinds/:id': {
    summary: 'Change one; its events are called by the new name at once',
    who: ['coordinator'],
    params: idParams,
    body,
    response: done,
  },
  'DELETE /api/kinds/:id': {
    summary: 'Offer one no longer; events that have it keep its name',
    who: ['coordinator'],
    params: idParams,
    response: done,
  },
});
