import { z } from 'zod';
import { channels } from '#core/messages/channels.ts';
import { lateRules } from '#core/messages/lines.ts';
import { mailingTopics } from '#core/messages/mailing.ts';
import { yearMoments } from '#core/messages/moments.ts';
import { yearKey } from '#core/messages/yearRound.ts';
import { contract, id, idParams } from './endpoint.ts';
import { lineOfPlan, previewed } from './messages.ts';
import { lineShape, oneWay, saidShape } from './plan.ts';

const { id: _, ...shape } = lineShape;
const words = {
  ...shape,
  moment: z.enum(yearMoments),
  channel: z.enum(channels).default('email'),
  late: z.enum(lateRules).extract(['skip', 'now']).default('skip'),
  /** What it is about, for those who want no more of it. */
  topic: z.enum(mailingTopics).default('notice'),
  ...saidShape,
};
const sameWay = { path: ['offsetMinutes'], error: 'offset-both-ways' };
/** A line of the organization: it hangs on what people have with it, at any time of the year. */
const yearLine = z.object({ id, ...words }).refine(oneWay, sameWay);
export type YearLinePlan = z.infer<typeof yearLine>;

/** Under which key a line knows somebody: `yearKeyOf` in core. */
const key = z.string().regex(yearKey);

export const yearRoundContract = contract({
  'GET /api/year-round': {
    summary: 'The lines of the organization: per line who gets it and when, and who does not and why',
    who: ['coordinator'],
    response: z.array(z.object({ line: yearLine, version: z.int(), shown: lineOfPlan })),
  },
  'PUT /api/year-round/:id': {
    summary: 'Add a line of the organization, change it, or put it back after it was removed',
    who: ['coordinator'],
    params: idParams,
    body: z.object({
      line: z.object(words).refine(oneWay, sameWay),
      /** The version that was seen, another by now is refused; 0 of a new one. */
      version: z.int().min(0),
    }),
    response: z.object({ version: z.int() }),
  },
  'POST /api/year-round/:id/remove': {
    summary: 'Take a line of the organization away; what it planned does not go out',
    who: ['coordinator'],
    params: idParams,
    body: z.object({ version: z.int().min(1) }),
    response: z.object({ version: z.int() }),
  },
  'GET /api/year-round/:id/preview': {
    summary: 'A line of the organization as somebody it concerns would get it',
    who: ['coordinator'],
    params: idParams,
    query: z.object({ key }),
    response: previewed,
  },
  'POST /api/year-round/preview': {
    summary:
      'A line of the organization as it is being written, as somebody it would concern would get it; somebody made up where there is nobody',
    who: ['coordinator'],
    body: z.object({ line: yearLine, key: key.optional() }),
    response: previewed.extend({
      key: key.nullable(),
      people: z.array(z.object({ key, name: z.string() })),
    }),
  },
  'POST /api/year-round/count': {
    summary:
      'To whom a line of the organization would go as it is being written, how many of them at once, and who gets none and why',
    who: ['coordinator'],
    body: z.object({ line: yearLine }),
    response: z.object({
      planned: z.int(),
      /** Of these, whose time has come already. */
      atOnce: z.int(),
      leftOut: z.array(z.object({ why: z.string(), people: z.int(), names: z.array(z.string()) })),
    }),
  },
  'POST /api/year-round/:id/test': {
    summary: 'Send a line of the organization to oneself, as somebody it concerns would get it',
    who: ['coordinator'],
    params: idParams,
    body: z.object({ key }),
    response: z.object({ address: z.string() }),
  },
});
