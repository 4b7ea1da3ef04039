import type { ContactFilter, viewsContract } from '#contract/views.ts';
import type { Handlers } from '../http/handle.ts';
import { keepView, readViews, throwViewAway, type ViewPlace } from '../staff/views.ts';

const here: ViewPlace = { place: 'contacts', eventId: null };

export const viewsHandlers: Handlers<typeof viewsContract> = {
  'GET /api/views': ({ tx, staff }) => readViews<ContactFilter>(tx, here, staff.id),

  'POST /api/views': (c) => keepView(c, here, c.body, c.staff.id),

  'DELETE /api/views/:id': async ({ tx, params, staff }) => {
    await throwViewAway(tx, here, params.id, staff.id, staff.roles.includes('coordinator'));
    return { done: true };
  },
};
