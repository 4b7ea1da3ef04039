import type { dutiesContract } from '#contract/duties.ts';
import { leads } from '#core/access/stages.ts';
import { demandLead, eventFor } from '../events/access.ts';
import type { Handlers } from '../http/handle.ts';
import { addMember, removeMember } from './commands.ts';
import { readTeam } from './store.ts';

export const dutiesHandlers: Handlers<typeof dutiesContract> = {
  'GET /api/events/:id/team': async (c) => {
    const event = await eventFor(c, c.params.id, 'plan', 'see');
    return {
      mayChange: leads(c.staff, event, c.now),
      members: (await readTeam(c.tx, event.id, c.now)).map(({ staffId, invitationId: _, ...m }) => ({
        ...m,
        mine: staffId === c.staff.id,
      })),
    };
  },

  'POST /api/events/:id/team': async (c) => {
    const event = await eventFor(c, c.params.id, 'plan', 'change', true);
    demandLead(c, event);
    return addMember(c, event, c.body);
  },

  'DELETE /api/events/:id/team/:member': async (c) => {
    const event = await eventFor(c, c.params.id, 'plan', 'change', true);
    demandLead(c, event);
    await removeMember(c, event, c.params.member);
    return { done: true };
  },
};
