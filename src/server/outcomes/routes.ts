import type { outcomesContract } from '#contract/outcomes.ts';
import { eventFor } from '../events/access.ts';
import type { Handlers } from '../http/handle.ts';
import { figuresOfEvent } from './store.ts';

export const outcomesHandlers: Handlers<typeof outcomesContract> = {
  'GET /api/events/:id/figures': async (c) => {
    await eventFor(c, c.params.id, 'wrap-up', 'see');
    return figuresOfEvent(c.tx, c.params.id);
  },
};
