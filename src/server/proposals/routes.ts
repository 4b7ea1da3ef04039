import type { proposalsContract } from '#contract/proposals.ts';
import { record } from '../app/record.ts';
import { demandLead, eventFor } from '../events/access.ts';
import type { Handlers } from '../http/handle.ts';
import { decideEventProposal, proposeEvent, theOpening } from './commands.ts';
import { countWaiting, readOpening, saveOpening } from './store.ts';

export const proposalsHandlers: Handlers<typeof proposalsContract> = {
  'GET /api/public/propose': ({ tx }) => theOpening(tx),

  'POST /api/public/propose': async (c) => {
    await proposeEvent(c, c.body);
    return { done: true };
  },

  'GET /api/event-proposals': async ({ tx }) => ({
    ...(await readOpening(tx)),
    waiting: await countWaiting(tx),
  }),

  'PUT /api/event-proposals': async (c) => {
    const { open, words } = c.body;
    await saveOpening(c.tx, { open, words: { en: words.en, ...(words.fr ? { fr: words.fr } : {}) } });
    await record(c, 'organization changed', {
      how: open ? 'asked for proposals of events' : 'closed proposals of events',
    });
    return { done: true };
  },

  'POST /api/events/:id/proposal': async (c) => {
    demandLead(c, await eventFor(c, c.params.id, 'plan', 'change', true));
    await decideEventProposal(c, c.params.id, c.body.take, c.body.words);
    return { done: true };
  },
};
