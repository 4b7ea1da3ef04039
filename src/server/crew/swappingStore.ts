import type { SwapWish } from '#core/crew/swapping.ts';
import type { Queries } from '../db/database.ts';
import { elsewhereSql } from './steppingInStore.ts';

export interface WishRow extends SwapWish {
  name: string;
}

/** What people on shifts of an event that are still to come would have in their place. */
export const readWishes = (tx: Queries, eventId: string, now: string): Promise<WishRow[]> =>
  tx.query<WishRow>(
    `select a.id as assignment_id, a.contact_id, trim(c.given_name || ' ' || c.family_name) as name, a.shift_id,
       array_agg(o.id order by x.said_at, o.id) as wants, min(x.said_at) as since
     from swap_wishes x join assignments a on a.id = x.assignment_id join shifts s on s.id = a.shift_id join contacts c on c.id = a.contact_id
       join shifts o on o.id = x.shift_id
     where s.event_id = $1 and a.state = 'agreed' and s.starts_at > $2 and s.removed_at is null and o.starts_at > $2 and o.removed_at is null
     group by a.id, c.id order by since, a.id`,
    [eventId, now],
  );

/** Says what somebody would have in the place of their shift; what they wished for before and still do keeps its time. */
export async function keepWishes(
  tx: Queries,
  assignmentId: string,
  wants: readonly string[],
  at: string,
): Promise<void> {
  await tx.query('delete from swap_wishes where assignment_id = $1 and shift_id <> all($2)', [
    assignmentId,
    wants,
  ]);
  await tx.query(
    'insert into swap_wishes (assignment_id, shift_id, said_at) select $1, unnest($2::uuid[]), $3 on conflict do nothing',
    [assignmentId, wants, at],
  );
}

/** Everybody who has a shift of an event now, once for each. */
export const readOnAll = (tx: Queries, eventId: string): Promise<{ contactId: string; shiftId: string }[]> =>
  tx.query<{ contactId: string; shiftId: string }>(
    "select a.contact_id, a.shift_id from assignments a join shifts s on s.id = a.shift_id where s.event_id = $1 and s.removed_at is null and a.state in ('proposed', 'agreed')",
    [eventId],
  );

export interface OtherRow {
  shiftId: string;
  eventId: string;
  name: string;
  role: string;
  place: string;
  startsLocal: string;
  endsLocal: string;
  event: string;
  zone: string;
  room: boolean;
}

/**
 * Shifts still to come of the events where somebody has one, that they are not on. Whoever signed up from outside is shown those that
 * anybody may sign up for.
 */
export const otherShifts = (tx: Queries, contactId: string, now: string): Promise<OtherRow[]> =>
  tx.query<OtherRow>(
    `with own as (
       select s.event_id as id, bool_or(a.source = 'staff') as known from assignments a join shifts s on s.id = a.shift_id
         where a.contact_id = $1 and a.state = 'agreed' and s.starts_at > $2 and s.removed_at is null group by s.event_id)
     select ${elsewhereSql}, s.event_id,
       (select count(*) from assignments x where x.shift_id = s.id and x.state in ('agreed', 'served', 'missed'))
         + (select count(*) from step_in_asks k where k.shift_id = s.id and k.state = 'asked') < s.wished as room
     from own join shifts s on s.event_id = own.id join events e on e.id = s.event_id
     where s.starts_at > $2 and s.removed_at is null and (s.public_sign_up or own.known) and e.state <> 'called off'
       and not exists (select 1 from assignments x where x.shift_id = s.id and x.contact_id = $1 and x.state in ('proposed', 'agreed', 'served', 'missed'))
     order by s.starts_at, s.role, s.id`,
    [contactId, now],
  );

/** Shifts that somebody would give for one of a contact's, said with whose it is for; once however many would. */
export const wishedOf = (
  tx: Queries,
  contactId: string,
  now: string,
): Promise<(Omit<OtherRow, 'eventId' | 'room'> & { assignmentId: string })[]> =>
  tx.query<Omit<OtherRow, 'eventId' | 'room'> & { assignmentId: string }>(
    `select distinct on (s.starts_at, s.id, mine.id) ${elsewhereSql}, mine.id as assignment_id
     from assignments mine join shifts m on m.id = mine.shift_id join swap_wishes x on x.shift_id = mine.shift_id
       join assignments a on a.id = x.assignment_id join shifts s on s.id = a.shift_id join events e on e.id = s.event_id
     where mine.contact_id = $1 and mine.state = 'agreed' and m.starts_at > $2 and a.state = 'agreed' and a.contact_id <> $1 and s.starts_at > $2
       and s.removed_at is null and e.state <> 'called off'
       and not exists (select 1 from swap_wishes y where y.assignment_id = mine.id and y.shift_id = s.id)
       and not exists (select 1 from assignments o where o.shift_id = s.id and o.contact_id = $1 and o.state in ('proposed', 'agreed'))
     order by s.starts_at, s.id, mine.id`,
    [contactId, now],
  );
