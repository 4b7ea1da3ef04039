import { z } from 'zod';
import { letterKinds } from '#core/messages/letters.ts';
import { contract, done, instant } from './endpoint.ts';
import { saidShape } from './plan.ts';

const kind = z.enum(letterKinds as [(typeof letterKinds)[number], ...(typeof letterKinds)[number][]]);
const said = z.object(saidShape);
export type LetterText = z.infer<typeof said>;
const params = z.object({ kind });

export const lettersContract = contract({
  'GET /api/letters': {
    summary: 'The letters that go out by themselves, and which of them the organization wrote its own way',
    who: ['coordinator'],
    response: z.array(
      z.object({
        kind,
        subject: z.string(),
        /** Written by the organization. */
        own: z.boolean(),
        setAt: instant.nullable(),
        setBy: z.string(),
        /** The French was written for another English. */
        lags: z.boolean(),
      }),
    ),
  },
  'GET /api/letters/:kind': {
    summary: 'What a letter says, what it says at first, and what it said before',
    who: ['coordinator'],
    params,
    response: z.object({
      kind,
      said,
      own: z.boolean(),
      first: said,
      version: z.int(),
      fields: z.array(z.string()),
      /** The newest first; null where it was its first text. */
      before: z.array(
        z.object({ version: z.int(), said: said.nullable(), setAt: instant, setBy: z.string() }),
      ),
    }),
  },
  'PUT /api/letters/:kind': {
    summary: 'Say what a letter says from now on; null for its first text. What was sent stays as it was',
    who: ['coordinator'],
    params,
    body: z.object({
      /** The version that was seen; another by now is refused. */
      version: z.int(),
      said: said.nullable(),
    }),
    response: done,
  },
  'POST /api/letters/:kind/preview': {
    summary: 'A letter as it is being written, as somebody made up would get it',
    who: ['coordinator'],
    params,
    body: z.object({ said, language: z.enum(['en', 'fr']) }),
    response: z.object({ subject: z.string(), body: z.string(), html: z.string() }),
  },
});
