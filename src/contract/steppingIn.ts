import { z } from 'zod';
import { askStates, searchEnds } from '#core/crew/steppingIn.ts';
import { against, person } from './crew.ts';
import { contract, done, id, idParams, instant, token } from './endpoint.ts';

const lead = ['unit lead', 'crew lead'] as const;

export const steppingInContract = contract({
  'GET /api/shifts/:id/step-in': {
    summary: 'Who waits for a shift, and who was asked to step in and what they said',
    who: [...lead],
    params: idParams,
    response: z.object({
      /** The search that goes on, or the one before. */
      search: z
        .object({
          begunAt: instant,
          /** Who of the team began it; nothing where it began by itself. */
          begunBy: z.string(),
          /** Others are asked than those who wait. */
          wide: z.boolean(),
          endedAt: instant.nullable(),
          endedHow: z.enum(searchEnds).nullable(),
        })
        .nullable(),
      asks: z.array(
        z.object({
          id,
          contactId: id,
          name: z.string(),
          waited: z.boolean(),
          state: z.enum(askStates),
          askedAt: instant,
          until: instant,
          answeredAt: instant.nullable(),
        }),
      ),
      waiting: z.array(
        z.object({ contactId: id, name: z.string(), since: instant, against: z.array(against) }),
      ),
      /** Who would be asked next, the first few. */
      next: z.array(z.object({ contactId: id, name: z.string() })),
      /** Who gave the shift back, and what they said. */
      dropped: z.array(z.object({ contactId: id, name: z.string(), at: instant, words: z.string() })),
    }),
  },
  'POST /api/shifts/:id/step-in': {
    summary: 'Ask people to step in, one after the other, each with a time to answer',
    who: [...lead],
    params: idParams,
    response: done,
  },
  'DELETE /api/shifts/:id/step-in': {
    summary: 'Ask nobody else; whoever was asked and has not answered is told that they are not needed',
    who: [...lead],
    params: idParams,
    response: done,
  },
  'POST /api/public/shifts/:id/wait': {
    summary:
      'Wait for a place on a shift that is full; the link to one’s shifts goes by mail, and the answer is the same for everybody',
    who: 'public',
    params: idParams,
    body: person,
    response: done,
  },
  'POST /api/public/crew/:token/wait-no-more': {
    summary: 'Wait for a shift no more',
    who: 'public',
    params: token,
    body: z.object({ shiftId: id }),
    response: done,
  },
  'POST /api/public/crew/:token/step-in': {
    summary: 'Say whether one steps in',
    who: 'public',
    params: token,
    body: z.object({ askId: id, take: z.boolean() }),
    response: done,
  },
});
