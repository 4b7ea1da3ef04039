import type { CrewShift } from '#contract/crew.ts';
import type { Stint } from '#core/crew/clashes.ts';
import { onShift } from '#core/crew/states.ts';
import { whyQuiet } from '../contacts/quiet.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';

export interface ShiftRow extends Omit<CrewShift, 'assignments' | 'filled'> {
  eventId: string;
}

const shiftColumns =
  's.id, s.event_id, s.role, s.place, s.starts_local, s.ends_local, s.starts_at, s.ends_at, s.needed, s.public_sign_up';

export async function readShift(tx: Queries, id: string, lock = false): Promise<ShiftRow> {
  const row = await first<ShiftRow>(
    tx,
    `select ${shiftColumns} from shifts s where s.id = $1 ${lock ? 'for update' : ''}`,
    [id],
  );
  if (!row) throw notFound('This shift');
  return row;
}

/** The shifts of an event with who is, or was, on them. */
export const readShifts = (tx: Queries, eventId: string): Promise<CrewShift[]> =>
  tx.query<CrewShift>(
    `select ${shiftColumns.replace('s.event_id, ', '')},
       (select count(*)::int from assignments a where a.shift_id = s.id and a.state in ${among(onShift)}) as filled,
       coalesce((select jsonb_agg(jsonb_build_object('id', a.id, 'contactId', a.contact_id, 'name', trim(c.given_name || ' ' || c.family_name),
           'quiet', ${whyQuiet('c')}, 'state', a.state, 'source', a.source, 'overrideReason', a.override_reason, 'hours', a.hours) order by a.made_at, a.id)
         from assignments a join contacts c on c.id = a.contact_id where a.shift_id = s.id and a.state in ${among(onShift)}), '[]') as assignments
     from shifts s where s.event_id = $1 order by s.starts_at, s.role, s.id`,
    [eventId],
  );

/** Where somebody stands already, across all events, around a stretch of time. */
export const readStints = (tx: Queries, contactId: string, from: string, to: string): Promise<Stint[]> =>
  tx.query<Stint>(
    `select s.id as shift_id, s.role || ' (' || e.public_title || ')' as label, s.starts_at, s.ends_at
     from assignments a join shifts s on s.id = a.shift_id join events e on e.id = s.event_id
     where a.contact_id = $1 and a.state in ('proposed', 'agreed') and s.ends_at > $2::timestamptz - interval '1 day' and s.starts_at < $3::timestamptz + interval '1 day'`,
    [contactId, from, to],
  );
