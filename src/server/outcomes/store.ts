import { type EventFacts, type Figures, figuresOf } from '#core/outcomes/figures.ts';
import { byOwner, type Queries } from '../db/database.ts';

type Of<T> = T & { eventId: string };

/** Reads what the figures of some events are computed from, and computes them. */
export async function figuresOfEvents(
  tx: Queries,
  eventIds: readonly string[],
): Promise<ReadonlyMap<string, Figures>> {
  if (!eventIds.length) return new Map();
  const byEvent = async <T>(rows: Promise<Of<T>[]>): Promise<ReadonlyMap<string, Of<T>[]>> =>
    byOwner(eventIds, await rows, (row) => row.eventId);
  const seats = await byEvent(
    tx.query<Of<EventFacts['seats'][number]>>(
      `select r.event_id, r.state, a.state as attendance, r.walk_in from registrations r
       left join attendance a on a.registration_id = r.id where r.event_id = any($1)`,
      [eventIds],
    ),
  );
  const movements = await byEvent(
    tx.query<Of<EventFacts['movements'][number]>>(
      "select event_id, kind, amount, method from payments where event_id = any($1) and kind <> 'deposit'",
      [eventIds],
    ),
  );
  const stints = await byEvent(
    tx.query<Of<EventFacts['stints'][number]>>(
      `select s.event_id, a.state, coalesce(a.hours, 0)::float8 as hours
     from assignments a join shifts s on s.id = a.shift_id where s.event_id = any($1)`,
      [eventIds],
    ),
  );
  const surveys = await byEvent(
    tx.query<Of<{ asked: number; answered: number }>>(
      `select v.event_id, coalesce(sum((select count(*) from survey_asks k where k.survey_id = v.id)), 0)::int as asked,
       coalesce(sum(case when v.anonymous then (select count(*) from survey_asks k where k.survey_id = v.id and k.answered)
         else (select count(*) from survey_responses r where r.survey_id = v.id and r.contact_id is not null) end), 0)::int as answered
     from surveys v where v.event_id = any($1) and v.removed_at is null group by v.event_id`,
      [eventIds],
    ),
  );
  const kept = await byEvent(
    tx.query<Of<EventFacts['kept']>>(
      `select e.id as event_id,
       (select coalesce(sum(received), 0)::bigint from orders where event_id = e.id) as orders_received,
       (select coalesce(sum(amount), 0)::bigint from donations where event_id = e.id) as gifts
     from unnest($1::uuid[]) as e (id)`,
      [eventIds],
    ),
  );
  return new Map(
    eventIds.map((id) => [
      id,
      figuresOf({
        seats: seats.get(id)!,
        movements: movements.get(id)!,
        stints: stints.get(id)!,
        survey: surveys.get(id)![0] ?? null,
        kept: kept.get(id)![0]!,
      }),
    ]),
  );
}

/** The same of one event. */
export const figuresOfEvent = async (tx: Queries, eventId: string): Promise<Figures> =>
  (await figuresOfEvents(tx, [eventId])).get(eventId)!;
