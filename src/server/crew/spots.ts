import type { Spot } from '#core/crew/apart.ts';
import { first, type Queries } from '../db/database.ts';

/**
 * SQL: where a shift `s` of an event `e` is: the ground of the place it names, where the organization knows one of that name, else
 * that of the event.
 */
export const spotSql = (s: string, e: string): string =>
  `jsonb_build_object('place', ${s}.place, 'point', (select jsonb_build_array(v.latitude, v.longitude) from venues v
     where v.id = coalesce((select named.id from venues named where lower(named.name) = lower(${s}.place)), ${e}.venue_id) and v.latitude is not null and v.longitude is not null))`;

export const readSpot = async (tx: Queries, shiftId: string): Promise<Spot> =>
  (await first<{ spot: Spot }>(
    tx,
    `select ${spotSql('s', 'e')} as spot from shifts s join events e on e.id = s.event_id where s.id = $1`,
    [shiftId],
  ))!.spot;
