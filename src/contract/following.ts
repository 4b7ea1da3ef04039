import { z } from 'zod';
import { contract, done, strangersName, token } from './endpoint.ts';

const language = z.enum(['en', 'fr']);
/** What can be followed: one event, or every date of the series it is of. */
const what = z.enum(['event', 'series']);

export const followingContract = contract({
  'POST /api/public/events/:slug/followers': {
    summary:
      'Ask to hear of an event, or of every date of its series, without a seat. A link goes to the address; whoever opens it follows',
    who: 'public',
    params: z.object({ slug: z.string().max(120) }),
    body: z.object({
      of: what,
      name: strangersName,
      email: z.string().trim().max(254),
      language: language.default('en'),
      /** The time zone of whoever asks; what is none is as none. */
      zone: z.string().max(64).default(''),
    }),
    response: done,
  },
  'GET /api/public/follow/:token': {
    summary: 'What somebody is asked whether they want to hear of',
    who: 'public',
    params: token,
    response: z.object({
      of: what,
      title: z.string(),
      slug: z.string().nullable(),
      organization: z.string(),
      name: z.string(),
      language,
      follows: z.boolean(),
    }),
  },
  'POST /api/public/follow/:token': {
    summary: 'Follow, or stop following',
    who: 'public',
    params: token,
    body: z.object({ follows: z.boolean() }),
    response: done,
  },
  'GET /api/public/out/:token': {
    summary: 'What the way out of a message leads out of',
    who: 'public',
    params: token,
    response: z.object({
      of: z.enum(['event', 'series', 'topic']),
      /** The event or the series, or the topic by its name. */
      title: z.string(),
      organization: z.string(),
      language,
      out: z.boolean(),
    }),
  },
  'POST /api/public/out/:token': {
    summary: 'Get no more of these, in one step (RFC 8058); or come back',
    who: 'public',
    params: token,
    body: z.object({ back: z.boolean().default(false) }),
    response: done,
  },
});
