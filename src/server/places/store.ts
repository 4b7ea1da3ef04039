import type { Place } from '#contract/places.ts';
import { first, type Queries } from '../db/database.ts';
import { endSql } from '../events/end.ts';
import { notFound } from '../http/problem.ts';

export const readPlaces = (tx: Queries, now: string): Promise<Place[]> =>
  tx.query<Place>(
    `select v.id, v.name, v.address, v.capacity, v.access_notes, v.phone, v.opening_hours, v.set_up_minutes, v.latitude, v.longitude,
       v.retired_at is not null as retired, count(e.id)::int as events,
       (count(e.id) filter (where e.starts_at is null or ${endSql('e')} > $1))::int as coming
     from venues v left join events e on e.venue_id = v.id and not e.is_template
     group by v.id order by v.retired_at is not null, v.name`,
    [now],
  );

/** The name of a place; throws 404. */
export async function thePlace(tx: Queries, id: string): Promise<{ name: string }> {
  const row = await first<{ name: string }>(tx, 'select name from venues where id = $1 for update', [id]);
  if (!row) throw notFound('This place');
  return row;
}

/** True when another place has a name. */
export const nameTaken = async (tx: Queries, name: string, id: string): Promise<boolean> =>
  (await first(tx, 'select 1 as x from venues where lower(name) = lower($1) and id <> $2', [name, id])) !==
  null;

/** Moves every event of a place to another, and deletes it; answers how many events there were. */
export async function moveEvents(tx: Queries, from: string, into: string): Promise<number> {
  const moved = await tx.query<{ id: string }>(
    'update events set venue_id = $2, version = version + 1 where venue_id = $1 returning id',
    [from, into],
  );
  await tx.query('delete from venues where id = $1', [from]);
  return moved.length;
}
