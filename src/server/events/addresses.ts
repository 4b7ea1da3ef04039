import { slugOn } from '#core/events/slug.ts';
import { type EventState, shownToPublic } from '#core/events/states.ts';
import type { WallTime } from '#core/time/clock.ts';
import type { Work } from '../app/app.ts';
import { first, type Queries } from '../db/database.ts';
import { endSql } from './end.ts';
import { isTypedOn } from './history.ts';

/** True when another event has an address now, or had it before and is not over: what people kept still leads there. */
export async function isTaken(tx: Queries, slug: string, eventId: string, now: string): Promise<boolean> {
  const row = await first(
    tx,
    `select 1 as x from events where slug = $1 and id <> $2
     union all
     select 1 from event_addresses a join events e on e.id = a.event_id
     where a.slug = $1 and a.event_id <> $2 and (e.starts_at is null or ${endSql('e')} > $3)`,
    [slug, eventId, now],
  );
  return row !== null;
}

/**
 * Moves an event to another address. The one before leads on, as long as no other event takes it over: one that the public
 * could have, and not one that was only typed through on the way.
 */
export async function moveAddress(
  w: Pick<Work, 'tx' | 'now' | 'actor'>,
  event: { id: string; slug: string | null; state: EventState },
  to: string | null,
): Promise<void> {
  const { slug: from } = event;
  if (from === to) return;
  if (to) await w.tx.query('delete from event_addresses where slug = $1', [to]);
  if (!from || !shownToPublic.includes(event.state)) return;
  if (await isTypedOn(w, event.id, 'slug')) return;
  await w.tx.query(
    `insert into event_addresses (slug, event_id, since) values ($1, $2, $3)
     on conflict (slug) do update set event_id = excluded.event_id, since = excluded.since`,
    [from, event.id, w.now],
  );
}

/** The address of an event that nobody could see yet, where it names the date and the date moves; nothing to change else. */
export async function addressAlong(
  { tx, now }: Pick<Work, 'tx' | 'now'>,
  event: { id: string; slug: string | null; state: EventState },
  from: WallTime | null,
  to: WallTime | null,
): Promise<{ slug?: string }> {
  if (!event.slug || !from || !to || shownToPublic.includes(event.state)) return {};
  const slug = slugOn(event.slug, from.slice(0, 10), to.slice(0, 10));
  return slug && !(await isTaken(tx, slug, event.id, now)) ? { slug } : {};
}

/** The event that had an address before; null where none had. */
export const eventBefore = async (tx: Queries, slug: string): Promise<string | null> =>
  (
    await first<{ slug: string }>(
      tx,
      'select e.slug from event_addresses a join events e on e.id = a.event_id where a.slug = $1 and e.slug is not null',
      [slug],
    )
  )?.slug ?? null;
