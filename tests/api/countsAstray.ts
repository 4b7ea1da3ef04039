import type { Queries } from '#server/db/database.ts';

/** Events whose kept counts are not what their seats and arrivals come to: there are none, whatever was done. */
export const countsAstray = (db: Queries): Promise<{ eventId: string; kept: number[]; are: number[] }[]> =>
  db.query<{ eventId: string; kept: number[]; are: number[] }>(`
    with a as (
      select e.id as event_id, array[
        (select count(*) from registrations r where r.event_id = e.id and r.state = 'confirmed')::int,
        (select count(*) from registrations r where r.event_id = e.id and r.state in ('held', 'offered'))::int,
        (select count(*) from registrations r where r.event_id = e.id and r.state = 'waitlisted')::int,
        (select count(*) from attendance t where t.event_id = e.id and t.state in ('arrived', 'left'))::int] as are
      from events e),
    k as (select event_id, array[confirmed, held, waitlisted, arrived] as kept from event_counts)
    select a.event_id, coalesce(k.kept, '{0,0,0,0}') as kept, a.are from a left join k using (event_id)
    where coalesce(k.kept, '{0,0,0,0}') <> a.are`);
