import { first, insert, type Queries, update } from '../db/database.ts';
import type { Ids } from '../db/ids.ts';
import { notFound, refused } from '../http/problem.ts';

/** Where views are kept: the list of contacts, or the seats of one event. */
export interface ViewPlace {
  place: 'contacts' | 'registrations';
  eventId: string | null;
}

interface ViewRow {
  id: string;
  name: string;
  shared: boolean;
  mine: boolean;
  filter: unknown;
}

/** Views under names, of one's own and of the team's, as they are kept. */
export async function readViews<F>(
  tx: Queries,
  { place, eventId }: ViewPlace,
  staffId: string,
): Promise<(Omit<ViewRow, 'filter'> & { filter: F })[]> {
  const rows = await tx.query<ViewRow>(
    `select id, name, staff_id is null as shared, staff_id is not distinct from $3 as mine, filter from views
     where place = $1 and event_id is not distinct from $2 and (staff_id is null or staff_id = $3)
     order by staff_id is null desc, lower(name)`,
    [place, eventId, staffId],
  );
  // Whatever the contract took in is what was kept.
  return rows as (Omit<ViewRow, 'filter'> & { filter: F })[];
}

/** Keeps a view; the same name again changes it. */
export async function keepView(
  { tx, app, now }: { tx: Queries; app: { ids: Ids }; now: string },
  { place, eventId }: ViewPlace,
  { name, shared, filter }: { name: string; shared: boolean; filter: object },
  by: string,
): Promise<{ id: string }> {
  const staffId = shared ? null : by;
  const same = await first<{ id: string }>(
    tx,
    `select id from views where place = $1 and event_id is not distinct from $2 and staff_id is not distinct from $3
       and lower(name) = lower($4)`,
    [place, eventId, staffId, name],
  );
  if (same) {
    await update(tx, 'views', same.id, { name, filter });
    return same;
  }
  const id = app.ids.id();
  await insert(tx, 'views', { id, place, eventId, name, staffId, filter, createdAt: now });
  return { id };
}

/** Throws a view away: one's own; the team's only by whoever leads there. */
export async function throwViewAway(
  tx: Queries,
  { place, eventId }: ViewPlace,
  id: string,
  staffId: string,
  leads: boolean,
): Promise<void> {
  const view = await first<{ staffId: string | null }>(
    tx,
    'select staff_id from views where id = $1 and place = $2 and event_id is not distinct from $3',
    [id, place, eventId],
  );
  if (!view || (view.staffId && view.staffId !== staffId)) throw notFound('This view');
  if (!view.staffId && !leads) throw refused('view-of-the-team', {}, 403);
  await tx.query('delete from views where id = $1', [id]);
}
