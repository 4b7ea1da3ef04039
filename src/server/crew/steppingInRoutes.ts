import type { steppingInContract } from '#contract/steppingIn.ts';
import type { swappingContract } from '#contract/swapping.ts';
import { eventFor } from '../events/access.ts';
import type { Handlers } from '../http/handle.ts';
import { crewByLink } from './ownPage.ts';
import { answerAsk, askToStepIn, searchOf, stopSearch, waitFor, waitNoMore } from './steppingInCommands.ts';
import { readShift } from './store.ts';
import { declineSwaps, letSwap, shownSwaps, wishSwap } from './swappingCommands.ts';

const done = { done: true } as const;

export const steppingInHandlers: Handlers<typeof steppingInContract> = {
  'GET /api/shifts/:id/step-in': async (c) => {
    const shift = await readShift(c.tx, c.params.id);
    await eventFor(c, shift.eventId, 'crew', 'change');
    return searchOf(c, shift);
  },
  'POST /api/shifts/:id/step-in': async (c) => {
    const shift = await readShift(c.tx, c.params.id, true);
    await askToStepIn(c, await eventFor(c, shift.eventId, 'crew', 'change'), shift);
    return done;
  },
  'DELETE /api/shifts/:id/step-in': async (c) => {
    const shift = await readShift(c.tx, c.params.id, true);
    await eventFor(c, shift.eventId, 'crew', 'change');
    await stopSearch(c, shift);
    return done;
  },
  'POST /api/public/shifts/:id/wait': async (c) => {
    await waitFor(c, await readShift(c.tx, c.params.id, true), c.body);
    return done;
  },
  'POST /api/public/crew/:token/wait-no-more': async (c) => {
    await waitNoMore(c, await crewByLink(c.tx, c.params.token), c.body.shiftId);
    return done;
  },
  'POST /api/public/crew/:token/step-in': async (c) => {
    await answerAsk(c, await crewByLink(c.tx, c.params.token), c.body.askId, c.body.take);
    return done;
  },
};

export const swappingHandlers: Handlers<typeof swappingContract> = {
  'GET /api/events/:id/swaps': async (c) => shownSwaps(c, await eventFor(c, c.params.id, 'crew', 'change')),
  'POST /api/events/:id/swaps': async (c) => {
    await letSwap(c, await eventFor(c, c.params.id, 'crew', 'change'), c.body);
    return done;
  },
  'POST /api/events/:id/swaps/decline': async (c) => {
    await declineSwaps(c, await eventFor(c, c.params.id, 'crew', 'change'), c.body);
    return done;
  },
  'POST /api/public/crew/:token/swap': async (c) => {
    await wishSwap(c, await crewByLink(c.tx, c.params.token), c.body);
    return done;
  },
};
