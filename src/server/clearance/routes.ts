import type { clearanceContract } from '#contract/clearance.ts';
import { eventFor } from '../events/access.ts';
import type { Handlers } from '../http/handle.ts';
import { decide, submit } from './commands.ts';
import { clearanceOf } from './steps.ts';

export const clearanceHandlers: Handlers<typeof clearanceContract> = {
  'GET /api/events/:id/clearance': async (c) => {
    await eventFor(c, c.params.id, 'clearance', 'see');
    return clearanceOf(c.tx, c.params.id, c.staff, c.now);
  },

  'POST /api/events/:id/clearance': async (c) => {
    await eventFor(c, c.params.id, 'clearance', 'change');
    await submit(c, c.params.id);
    return clearanceOf(c.tx, c.params.id, c.staff, c.now);
  },

  'POST /api/clearance-steps/:id/decision': async (c) => {
    const eventId = await decide(c, c.staff, c.params.id, c.body);
    return clearanceOf(c.tx, eventId, c.staff, c.now);
  },
};
