import type { View, viewsContract } from '#contract/views.ts';
import { first, insert, update } from '../db/database.ts';
import type { Handlers } from '../http/handle.ts';
import { notFound, refused } from '../http/problem.ts';

export const viewsHandlers: Handlers<typeof viewsContract> = {
  'GET /api/views': ({ tx, staff }) =>
    tx.query<View>(
      `select id, name, staff_id is null as shared, staff_id is not distinct from $1 as mine, filter from views
       where place = 'contacts' and (staff_id is null or staff_id = $1) order by staff_id is null desc, lower(name)`,
      [staff.id],
    ),

  'POST /api/views': async ({ tx, app, body, staff, now }) => {
    const staffId = body.shared ? null : staff.id;
    const same = await first<{ id: string }>(
      tx,
      "select id from views where place = 'contacts' and staff_id is not distinct from $1 and lower(name) = lower($2)",
      [staffId, body.name],
    );
    if (same) {
      await update(tx, 'views', same.id, { name: body.name, filter: body.filter });
      return same;
    }
    const id = app.ids.id();
    await insert(tx, 'views', {
      id,
      place: 'contacts',
      name: body.name,
      staffId,
      filter: body.filter,
      createdAt: now,
    });
    return { id };
  },

  'DELETE /api/views/:id': async ({ tx, params, staff }) => {
    const view = await first<{ staffId: string | null }>(tx, 'select staff_id from views where id = $1', [
      params.id,
    ]);
    if (!view || (view.staffId && view.staffId !== staff.id)) throw notFound('This view');
    if (!view.staffId && !staff.roles.includes('coordinator')) throw refused('view-of-the-team', {}, 403);
    await tx.query('delete from views where id = $1', [params.id]);
    return { done: true };
  },
};
