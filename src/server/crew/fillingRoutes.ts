import type { fillingContract } from '#contract/filling.ts';
import { eventFor } from '../events/access.ts';
import type { Handlers } from '../http/handle.ts';
import {
  acceptProposed,
  beginFilling,
  setAside,
  shownFilling,
  stepIn,
  stepsFor,
  stopFilling,
} from './fillingCommands.ts';
import { readShift } from './store.ts';

const done = { done: true } as const;

export const fillingHandlers: Handlers<typeof fillingContract> = {
  'GET /api/events/:id/roster': async (c) =>
    shownFilling(c, await eventFor(c, c.params.id, 'crew', 'change')),
  'POST /api/events/:id/roster': async (c) =>
    beginFilling(c, await eventFor(c, c.params.id, 'crew', 'change'), c.body.seconds),
  'POST /api/events/:id/roster/stop': async (c) => {
    await stopFilling(c, await eventFor(c, c.params.id, 'crew', 'change'));
    return done;
  },
  'POST /api/events/:id/roster/accept': async (c) =>
    acceptProposed(c, await eventFor(c, c.params.id, 'crew', 'change'), c.body.pairs),
  'DELETE /api/events/:id/roster': async (c) => {
    await setAside(c, await eventFor(c, c.params.id, 'crew', 'change'));
    return done;
  },
  'GET /api/shifts/:id/repair': async (c) => {
    const shift = await readShift(c.tx, c.params.id);
    const event = await eventFor(c, shift.eventId, 'crew', 'change');
    return { steps: await stepsFor(c, event, shift.id) };
  },
  'POST /api/shifts/:id/repair': async (c) => {
    const shift = await readShift(c.tx, c.params.id, true);
    const event = await eventFor(c, shift.eventId, 'crew', 'change');
    await stepIn(c, event, shift.id, c.body.steps);
    return done;
  },
};
