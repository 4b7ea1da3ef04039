import type { thanksContract } from '#contract/thanks.ts';
import { whatIf } from '../app/app.ts';
import { eventFor } from '../events/access.ts';
import type { Handlers } from '../http/handle.ts';
import { previewThanks, sendThanks } from './thanks.ts';

export const thanksHandlers: Handlers<typeof thanksContract> = {
  'POST /api/events/:id/thanks/preview': async (c) => {
    const event = await eventFor(c, c.params.id, 'wrap-up', 'change');
    return whatIf(c.app, c.actor, (w) => previewThanks(w, event, c.body, c.staff));
  },

  'POST /api/events/:id/thanks': async (c) => {
    await eventFor(c, c.params.id, 'wrap-up', 'change');
    return sendThanks(c, c.params.id, c.body, c.staff);
  },
};
