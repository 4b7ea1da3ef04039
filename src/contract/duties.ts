import { z } from 'zod';
import { dutyParts } from '#core/access/duties.ts';
import { stages } from '#core/events/states.ts';
import { contract, done, id, idParams } from './endpoint.ts';

const member = z.object({
  id,
  part: z.enum(dutyParts),
  stage: z.enum(stages).nullable(),
  name: z.string(),
  email: z.string(),
  /** Was invited, and has no account yet. */
  invited: z.boolean(),
  mine: z.boolean(),
});
export type TeamMember = z.infer<typeof member>;

export const dutiesContract = contract({
  'GET /api/events/:id/team': {
    summary: 'Who works on an event beyond their roles',
    who: ['unit lead'],
    params: idParams,
    response: z.object({ mayChange: z.boolean(), members: z.array(member) }),
  },
  'POST /api/events/:id/team': {
    summary:
      'Put somebody on the team of an event: with an account at once, else with an invitation, whose link is answered to be handed over',
    who: ['unit lead'],
    params: idParams,
    body: z
      .object({
        name: z.string().trim().min(2, 'name-needed').max(120),
        email: z.string().trim().max(254),
        part: z.enum(dutyParts),
        stage: z.enum(stages).nullable().default(null),
      })
      .refine((b) => (b.part === 'helper') === (b.stage !== null), {
        path: ['stage'],
        message: 'stage-of-helper',
      }),
    response: z.object({ id, link: z.string().nullable() }),
  },
  'DELETE /api/events/:id/team/:member': {
    summary: 'Take somebody off the team of an event: what they could do there ends at once',
    who: ['unit lead'],
    params: z.object({ id, member: id }),
    response: done,
  },
});
