import type { Place, RoomBody } from '#contract/places.ts';
import type { EventState } from '#core/events/states.ts';
import { liveStates } from '#core/events/states.ts';
import type { Closed, Premises, Span } from '#core/places/booking.ts';
import type { KnownAddress } from '#core/places/gazetteer.ts';
import { among } from '../db/among.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { endSql } from '../events/end.ts';
import { notFound } from '../http/problem.ts';

/** A place as it is kept: its picture by its id. */
export type PlaceRow = Omit<Place, 'picture'> & { pictureId: string | null };

export const readPlaces = (tx: Queries, now: string): Promise<PlaceRow[]> =>
  tx.query<PlaceRow>(
    `select v.id, v.name, v.address, v.capacity, v.access_notes, v.phone, v.opening_hours, v.set_up_minutes, v.latitude, v.longitude,
       v.shared, v.ours, v.closed, v.retired_at is not null as retired, v.picture_id, count(e.id)::int as events,
       (count(e.id) filter (where e.starts_at is null or ${endSql('e')} > $1))::int as coming,
       coalesce((select jsonb_agg(jsonb_build_object('id', rm.id, 'name', rm.name, 'capacity', rm.capacity, 'layouts', rm.layouts) order by rm.position)
         from rooms rm where rm.venue_id = v.id and rm.retired_at is null), '[]') as rooms
     from venues v left join events e on e.venue_id = v.id and not e.is_template
     group by v.id order by v.retired_at is not null, v.name`,
    [now],
  );

/** Where the places are that new plans may choose. */
export const readAddresses = (tx: Queries): Promise<KnownAddress[]> =>
  tx.query<KnownAddress>(
    'select name, address, latitude, longitude from venues where retired_at is null order by name',
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

/** Moves every event of a place to another, and deletes it; answers which events those were. */
export async function moveEvents(tx: Queries, from: string, into: string): Promise<string[]> {
  // Rooms go along, each under a name that is free there.
  await tx.query(
    `update rooms r set venue_id = $2, position = position + 100, name = case when exists (
         select 1 from rooms o where o.venue_id = $2 and lower(o.name) = lower(r.name) and o.retired_at is null)
       then left(r.name, 70) || ' (' || left(r.id::text, 4) || ')' else r.name end
     where r.venue_id = $1`,
    [from, into],
  );
  const moved = await tx.query<{ id: string }>(
    'update events set venue_id = $2, version = version + 1 where venue_id = $1 returning id',
    [from, into],
  );
  await tx.query(
    'update venues v set picture_id = coalesce(v.picture_id, o.picture_id) from venues o where v.id = $2 and o.id = $1',
    [from, into],
  );
  await tx.query('delete from venues where id = $1', [from]);
  return moved.map((e) => e.id);
}

/** Brings the rooms of a place to those given; one that an event was in is retired, and comes back under its id. */
export async function saveRooms(
  tx: Queries,
  venueId: string,
  rooms: readonly RoomBody[],
  now: string,
): Promise<void> {
  const keep = rooms.map((r) => r.id);
  await tx.query(
    `delete from rooms r where r.venue_id = $1 and r.id <> all($2::uuid[]) and not exists (select 1 from events e where e.room_id = r.id)`,
    [venueId, keep],
  );
  // Retired first: a name that was given up is free for another.
  await tx.query(
    'update rooms set retired_at = coalesce(retired_at, $3) where venue_id = $1 and id <> all($2::uuid[])',
    [venueId, keep, now],
  );
  const known = new Set(
    (await tx.query<{ id: string }>('select id from rooms where venue_id = $1', [venueId])).map((r) => r.id),
  );
  for (const [position, { id, ...room }] of rooms.entries())
    if (known.has(id)) await update(tx, 'rooms', id, { ...room, position, retiredAt: null });
    else await insert(tx, 'rooms', { id, venueId, ...room, position });
}

/** A room with its name, of any place. */
interface RoomRow {
  id: string;
  name: string;
  capacity: number | null;
}

/** What of a place decides what is taken, and when it is closed. With `lock`, whoever takes something there comes after. */
export async function readPremises(
  tx: Queries,
  venueId: string,
  lock = false,
): Promise<Premises & { name: string; closed: Closed; named: RoomRow[] }> {
  const venue = await first<{
    id: string;
    name: string;
    shared: boolean;
    setUpMinutes: number;
    closed: Closed;
  }>(
    tx,
    `select id, name, shared, set_up_minutes, closed from venues where id = $1 ${lock ? 'for update' : ''}`,
    [venueId],
  );
  if (!venue) throw notFound('This place');
  const named = await tx.query<RoomRow>(
    'select id, name, capacity from rooms where venue_id = $1 and retired_at is null order by position',
    [venueId],
  );
  return { ...venue, named, rooms: named.map((r) => r.id) };
}

/** An event that has a space at some time. */
export interface Booking {
  eventId: string;
  title: string;
  startsLocal: string;
  endsLocal: string | null;
  spaceId: string;
  from: string;
  to: string;
  beside: { id: string }[];
}

/** Who has which space within a stretch of time, but for one event. */
export const readBookings = (
  tx: Queries,
  spaces: readonly string[],
  { from, to }: Span,
  exceptEvent: string,
): Promise<Booking[]> =>
  tx.query<Booking>(
    `select b.event_id, coalesce(nullif(e.public_title, ''), nullif(e.team_title, ''), 'Untitled') as title, e.starts_local, e.ends_local, b.space_id,
       lower(b.during) as from, upper(b.during) as to, e.beside
     from bookings b join events e on e.id = b.event_id
     where b.space_id = any($1) and b.during && tstzrange($2, $3) and b.event_id <> $4 order by lower(b.during), b.event_id`,
    [spaces, from, to, exceptEvent],
  );

export const letGo = (tx: Queries, eventId: string): Promise<unknown> =>
  tx.query('delete from bookings where event_id = $1', [eventId]);

/** States in which an event has its place. */
export const keepsPlace = (event: { state: EventState; isTemplate: boolean }): boolean =>
  !event.isTemplate && event.state !== 'called off' && event.state !== 'shelved';

/** Events of a place that are still to come and keep it. */
export const readComing = async (tx: Queries, venueId: string, now: string): Promise<string[]> =>
  (
    await tx.query<{ id: string }>(
      `select e.id from events e where e.venue_id = $1 and not e.is_template and e.state in ${among(liveStates)} and e.starts_at is not null
         and ${endSql('e')} > $2 order by e.created_at`,
      [venueId, now],
    )
  ).map((e) => e.id);
