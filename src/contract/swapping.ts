import { z } from 'zod';
import { mostInASwap } from '#core/crew/swapping.ts';
import { against } from './crew.ts';
import { contract, done, id, idParams, token } from './endpoint.ts';

const lead = ['unit lead', 'crew lead'] as const;
const move = z.object({ assignmentId: id, to: id });

export const swappingContract = contract({
  'GET /api/events/:id/swaps': {
    summary: 'Swaps that people wished for and that work out, with what speaks against each move',
    who: [...lead],
    params: idParams,
    response: z.object({
      swaps: z.array(
        z.object({
          moves: z.array(
            move.extend({
              contactId: id,
              name: z.string(),
              from: id,
              fromWords: z.string(),
              toWords: z.string(),
              against: z.array(against),
            }),
          ),
          /** The shift that has one fewer then, where it ends in an open place. */
          leaves: z.string().nullable(),
        }),
      ),
      /** Wishes that nothing fits yet. */
      wishes: z.array(
        z.object({
          assignmentId: id,
          contactId: id,
          name: z.string(),
          fromWords: z.string(),
          wants: z.array(z.string()),
        }),
      ),
    }),
  },
  'POST /api/events/:id/swaps': {
    summary: 'Let people change places; each is told. What speaks against it needs a reason to be overridden',
    who: [...lead],
    params: idParams,
    body: z.object({
      moves: z.array(move).min(1, 'nothing-there').max(mostInASwap),
      overrideReason: z.string().trim().max(300).default(''),
    }),
    response: done,
  },
  'POST /api/events/:id/swaps/decline': {
    summary: 'Decline what people wished for in the place of their shifts; each is told',
    who: [...lead],
    params: idParams,
    body: z.object({
      assignmentIds: z.array(id).min(1, 'nothing-there').max(100),
      words: z.string().trim().max(500).default(''),
    }),
    response: done,
  },
  'POST /api/public/crew/:token/swap': {
    summary: 'Say which other shifts one would have in the place of one’s own; with none, it is taken back',
    who: 'public',
    params: token,
    body: z.object({ assignmentId: id, wants: z.array(id).max(8) }),
    response: done,
  },
});
