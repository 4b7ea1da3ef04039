import type { Thanked } from '#contract/thanks.ts';
import { takingPart } from '#core/crew/states.ts';
import { came } from '#core/doors/attendance.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { type EventRow, readEvent } from '../events/store.ts';

/** What somebody helped with at an event. */
export interface Helped {
  role: string;
  hours: number | null;
}

/** The event, kept: whoever thanks its people at the same time waits. */
export const theEvent = (tx: Queries, id: string): Promise<EventRow> => readEvent(tx, id, true);

/** Who is thanked for an event and for what; whoever did several things stands here for each. */
export const readThanked = (tx: Queries, eventId: string) =>
  tx.query<{ contactId: string; as: Thanked; helped: Helped | null }>(
    `select x.contact_id, x.how as "as", x.helped from (
       select distinct a.contact_id, 'came' as how, null::jsonb as helped, 1 as n from attendance a where a.event_id = $1 and a.state in ${among(came)}
       union all
       select a.contact_id, 'helped', jsonb_build_object('role', s.role, 'hours', sum(a.hours)::float8), 2 from assignments a join shifts s on s.id = a.shift_id
         where s.event_id = $1 and a.state in ${among(takingPart)} group by a.contact_id, s.role
       union all
       select distinct d.contact_id, 'gave', null::jsonb, 3 from donations d where d.event_id = $1 and d.amount > 0) x
     where x.contact_id is not null order by x.contact_id, x.n, x.helped ->> 'role'`,
    [eventId],
  );

/** What each gave at an event, in its currency. */
export const readGiven = (tx: Queries, eventId: string, currency: string) =>
  tx.query<{ contactId: string; amount: number }>(
    `select contact_id, sum(amount)::bigint as amount from donations where event_id = $1 and currency = $2 and contact_id is not null
     group by 1 having sum(amount) > 0`,
    [eventId, currency],
  );

/** The bookings and gifts of an event, by their ids. */
export const readPaidAt = async (tx: Queries, eventId: string): Promise<ReadonlySet<string>> =>
  new Set(
    (
      await tx.query<{ id: string }>(
        'select id::text as id from orders where event_id = $1 union all select id::text from gifts where event_id = $1',
        [eventId],
      )
    ).map((r) => r.id),
  );

/** How many were thanked for an event before. */
export const countThanked = async (tx: Queries, eventId: string): Promise<number> =>
  (await first<{ n: number }>(
    tx,
    "select count(*)::int as n from messages m join mailings g on g.id = m.mailing_id where g.thanks_of = $1 and m.state <> 'held back'",
    [eventId],
  ))!.n;
