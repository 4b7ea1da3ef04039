import type { CrewPresent } from '#contract/serving.ts';
import type { HourKey, HoursOfYear } from '#core/crew/hourTotals.ts';
import type { AssignmentState } from '#core/crew/states.ts';
import { first, type Queries } from '../db/database.ts';

/** How far around now the crew is at the doors, in hours. */
const around = 36;

type PresentRow = Omit<CrewPresent, 'toSign' | 'relation'> & { contactId: string };

/** Who of an event's crew has a shift about now, by the time it begins, then by name. */
export const readPresent = (tx: Queries, eventId: string, now: string): Promise<PresentRow[]> =>
  tx.query<PresentRow>(
    `select a.id as assignment_id, a.contact_id, trim(c.given_name || ' ' || c.family_name) as name, s.role, s.name as shift, s.place, s.starts_local, s.ends_local,
       s.starts_at, s.ends_at, a.state, a.in_at, a.out_at
     from assignments a join shifts s on s.id = a.shift_id join contacts c on c.id = a.contact_id
     where s.event_id = $1 and s.removed_at is null and a.state in ('agreed', 'served', 'missed')
       and s.ends_at > $2::timestamptz - interval '${around} hours' and s.starts_at < $2::timestamptz + interval '${around} hours'
     order by s.starts_at, c.family_name, c.given_name, a.id`,
    [eventId, now],
  );

export interface PresenceRow {
  id: string;
  shiftId: string;
  contactId: string;
  state: AssignmentState;
  inAt: string | null;
  outAt: string | null;
  hours: number | null;
  /** Their hours were put right by hand. */
  corrected: boolean;
}

/** Somebody on a shift, held until what is ticked off is kept: two devices may do it at once. */
export const readPresence = (tx: Queries, id: string): Promise<PresenceRow | null> =>
  first<PresenceRow>(
    tx,
    `select id, shift_id, contact_id, state, in_at, out_at, hours, exists (select 1 from hour_corrections h where h.assignment_id = assignments.id) as corrected
     from assignments where id = $1 for update`,
    [id],
  );

/** What hours are added up by: the key and the label of a row. */
const keySql: Readonly<Record<HourKey, { key: string; label: string }>> = {
  person: { key: 'c.id::text', label: "trim(c.given_name || ' ' || c.family_name)" },
  event: {
    key: 'e.id::text',
    label: "e.public_title || coalesce(', ' || to_char(e.starts_local, 'FMDD Mon YYYY'), '')",
  },
  role: { key: 's.role', label: 's.role' },
};

const servedSql = `from assignments a join shifts s on s.id = a.shift_id join events e on e.id = s.event_id join contacts c on c.id = a.contact_id
  where a.state = 'served' and a.hours > 0 and s.starts_local::date between $1::date and $2::date`;

/** Hours served between two days, both included, by the year of the shift. */
export const readHours = (tx: Queries, from: string, until: string, by: HourKey): Promise<HoursOfYear[]> =>
  tx.query<HoursOfYear>(
    `select ${keySql[by].key} as key, ${keySql[by].label} as label, to_char(s.starts_local, 'YYYY') as year, count(*)::int as shifts, sum(a.hours)::float8 as hours
     ${servedSql} group by 1, 2, 3 order by 1, 3`,
    [from, until],
  );

/** How many people served of each, and of all. */
export const readServers = (
  tx: Queries,
  from: string,
  until: string,
  by: HourKey,
): Promise<{ key: string | null; people: number }[]> =>
  tx.query<{ key: string | null; people: number }>(
    `select ${keySql[by].key} as key, count(distinct a.contact_id)::int as people ${servedSql} group by rollup (1)`,
    [from, until],
  );

/** What somebody served between two days, the first first. */
export const readServedOf = (
  tx: Queries,
  contactId: string,
  from: string,
  until: string,
): Promise<{ on: string; event: string; role: string; hours: number }[]> =>
  tx.query<{ on: string; event: string; role: string; hours: number }>(
    `select s.starts_local::date as on, e.public_title as event, s.role, a.hours::float8 as hours ${servedSql} and a.contact_id = $3 order by s.starts_at, s.id`,
    [from, until, contactId],
  );
