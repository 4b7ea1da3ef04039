import type { outcomesContract } from '#contract/outcomes.ts';
import { readEvent } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { figuresOfEvent } from './store.ts';

export const outcomesHandlers: Handlers<typeof outcomesContract> = {
  'GET /api/events/:id/figures': async ({ tx, params }) => {
    await readEvent(tx, params.id);
    return figuresOfEvent(tx, params.id);
  },
};
