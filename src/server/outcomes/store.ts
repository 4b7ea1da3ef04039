import { type EventFacts, type Figures, figuresOf } from '#core/outcomes/figures.ts';
import { first, type Queries } from '../db/database.ts';

/** Reads what an event's figures are computed from, and computes them. */
export async function figuresOfEvent(tx: Queries, eventId: string): Promise<Figures> {
  const seats = await tx.query<EventFacts['seats'][number]>(
    `select r.state, a.state as attendance, r.walk_in from registrations r left join attendance a on a.registration_id = r.id where r.event_id = $1`,
    [eventId],
  );
  const movements = await tx.query<EventFacts['movements'][number]>(
    'select kind, amount, method from payments where event_id = $1',
    [eventId],
  );
  const stints = await tx.query<EventFacts['stints'][number]>(
    'select a.state, coalesce(a.hours, 0)::float8 as hours from assignments a join shifts s on s.id = a.shift_id where s.event_id = $1',
    [eventId],
  );
  const survey = await first<{ asked: number; answered: number }>(
    tx,
    `select (select count(*)::int from survey_asks k where k.survey_id = v.id) as asked,
       (select count(*)::int from survey_responses r where r.survey_id = v.id) as answered from surveys v where v.event_id = $1`,
    [eventId],
  );
  const kept = (await first<EventFacts['kept']>(
    tx,
    `select (select coalesce(sum(received), 0)::bigint from orders where event_id = $1) as orders_received,
       (select coalesce(sum(amount), 0)::bigint from donations where event_id = $1) as gifts`,
    [eventId],
  ))!;
  return figuresOf({ seats, movements, stints, survey, kept });
}
