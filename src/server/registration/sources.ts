import type { Source } from '#contract/seats.ts';
import { standing } from '#core/registration/states.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { among } from '../db/among.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import type { EventRow } from '../events/store.ts';
import { notFound } from '../http/problem.ts';

/** Letters and digits that are not mistaken for one another, typed from a poster. */
const letters = 'abcdefghjkmnpqrstuvwxyz23456789';

const sourceLink = (origin: string, event: Pick<EventRow, 'slug' | 'id'>, code: string): string =>
  `${origin}/e/${event.slug ?? event.id}?from=${code}`;

/** The link somebody came through; null for none, and for one that is not counted any more. */
export async function sourceNamed(tx: Queries, eventId: string, code: string): Promise<string | null> {
  if (!code) return null;
  const row = await first<{ id: string }>(
    tx,
    'select id from sources where event_id = $1 and code = $2 and stopped_at is null',
    [eventId, code.toLowerCase()],
  );
  return row?.id ?? null;
}

/** Makes a link of its own under a name; the same name is the same link. */
export async function makeSource(
  w: Work,
  event: EventRow,
  name: string,
): Promise<{ id: string; link: string }> {
  const { tx, app, now } = w;
  const same = await first<{ id: string; code: string }>(
    tx,
    'select id, code from sources where event_id = $1 and lower(name) = lower($2) and stopped_at is null',
    [event.id, name],
  );
  if (same) return { id: same.id, link: sourceLink(app.origin, event, same.code) };
  const id = app.ids.id();
  const code = [...app.ids.bytes(6)].map((b) => letters[b % letters.length]).join('');
  await insert(tx, 'sources', { id, eventId: event.id, name, code, createdAt: now });
  await record(w, 'source changed', { eventId: event.id, name, stopped: false });
  return { id, link: sourceLink(app.origin, event, code) };
}

/** Counts nothing more as coming through a link; what it brought stays its own. */
export async function stopSource(w: Work, eventId: string, id: string): Promise<void> {
  const source = await first<{ name: string; stoppedAt: string | null }>(
    w.tx,
    'select name, stopped_at from sources where id = $1 and event_id = $2',
    [id, eventId],
  );
  if (!source) throw notFound('This link');
  if (source.stoppedAt) return;
  await update(w.tx, 'sources', id, { stoppedAt: w.now });
  await record(w, 'source changed', { eventId, name: source.name, stopped: true });
}

/** Counts that a page was looked at, or a booking begun: by day and link, and nothing of whoever did. */
export async function countView(
  { tx, now }: Pick<Work, 'tx' | 'now'>,
  event: Pick<EventRow, 'id' | 'zone'>,
  step: 'seen' | 'begun',
  code: string,
): Promise<void> {
  await tx.query(
    `insert into page_views (event_id, source_id, day, seen, begun) values ($1, $2, $3, $4, $5)
     on conflict (event_id, coalesce(source_id, '00000000-0000-0000-0000-000000000000'), day)
     do update set seen = page_views.seen + excluded.seen, begun = page_views.begun + excluded.begun`,
    [
      event.id,
      await sourceNamed(tx, event.id, code),
      dateOf(now, event.zone),
      step === 'seen' ? 1 : 0,
      step === 'begun' ? 1 : 0,
    ],
  );
}

type Counts = Pick<Source, 'seen' | 'begun' | 'orders' | 'seats'>;

/** The links of an event with who came through which, and those who came through none. */
export async function readSources(
  tx: Queries,
  event: EventRow,
  origin: string,
): Promise<{ sources: Source[]; others: Counts }> {
  const rows = await tx.query<Counts & { id: string | null; name: string; code: string; stopped: boolean }>(
    `select s.id, s.name, s.code, s.stopped_at is not null as stopped,
       coalesce((select sum(v.seen) from page_views v where v.event_id = $1 and v.source_id is not distinct from s.id), 0)::int as seen,
       coalesce((select sum(v.begun) from page_views v where v.event_id = $1 and v.source_id is not distinct from s.id), 0)::int as begun,
       (select count(*) from orders o where o.event_id = $1 and o.channel = 'public' and o.source_id is not distinct from s.id)::int as orders,
       (select count(*) from orders o join registrations r on r.order_id = o.id where o.event_id = $1 and o.channel = 'public'
         and o.source_id is not distinct from s.id and r.state in ${among(standing)})::int as seats
     from (select id, name, code, stopped_at, created_at from sources where event_id = $1
       union all select null, '', '', null, null) s order by s.created_at nulls last, s.id`,
    [event.id],
  );
  const others = rows.find((r) => r.id === null)!;
  return {
    sources: rows
      .filter((r) => r.id !== null)
      .map(({ id, name, code, stopped, seen, begun, orders, seats }) => ({
        id: id!,
        name,
        link: sourceLink(origin, event, code),
        stopped,
        seen,
        begun,
        orders,
        seats,
      })),
    others: { seen: others.seen, begun: others.begun, orders: others.orders, seats: others.seats },
  };
}
