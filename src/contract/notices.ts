import { z } from 'zod';
import { noticedKinds, noticeTimes } from '#core/notices/notices.ts';
import { contract, done } from './endpoint.ts';

const wish = z.object({ what: z.enum(noticedKinds), when: z.enum(noticeTimes) });
/** At most a million, in whole units of the organization's currency. */
const leastGift = z.int().min(0).max(100_000_000);

export const noticesContract = contract({
  'GET /api/account/notices': {
    summary: 'What one is told of by email, of what one could be told, and when',
    who: 'staff',
    response: z.object({
      wishes: z.array(wish),
      /** Only of events that one leads or helps to organize. */
      onlyMine: z.boolean(),
      /** Gifts below are not told, in minor units. */
      leastGift,
      /** The time of day at which the morning's come, by the clock of the organization. */
      morning: z.string(),
    }),
  },
  'PUT /api/account/notices': {
    summary: 'Say what one wants to be told of by email, and when',
    who: 'staff',
    body: z.object({
      wishes: z
        .array(wish)
        .max(noticedKinds.length)
        .refine((all) => new Set(all.map((w) => w.what)).size === all.length, 'kind-twice'),
      onlyMine: z.boolean(),
      leastGift,
    }),
    response: done,
  },
});
