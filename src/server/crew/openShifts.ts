import { isDecidedFirst } from '#core/crew/against.ts';
import { onShift } from '#core/crew/states.ts';
import { livingStates } from '#core/events/states.ts';
import { among } from '../db/among.ts';
import type { Queries } from '../db/database.ts';

/** The most shifts that are shown at once. */
const most = 500;

interface OpenRow {
  id: string;
  name: string;
  role: string;
  place: string;
  startsLocal: string;
  endsLocal: string;
  startsAt: string;
  endsAt: string;
  zone: string;
  wished: number;
  /** On it, who asked for it, and who is asked to step in. */
  on: number;
  asked: number;
  asking: number;
  brief: string;
  fromAge: number | null;
  anybody: boolean;
  needs: string[];
  eventTitle: string;
  eventSlug: string;
}

/** Shifts anybody may sign up for that are still to come: of one event, or of every event that stands in the public listing. */
const readOpen = (tx: Queries, eventId: string | null, now: string): Promise<OpenRow[]> =>
  tx.query<OpenRow>(
    `select s.id, s.name, s.role, s.place, s.starts_local, s.ends_local, s.starts_at, s.ends_at, e.zone, s.wished,
       (select count(*)::int from assignments a where a.shift_id = s.id and a.state in ${among(onShift)}) as on,
       (select count(*)::int from assignments a where a.shift_id = s.id and a.state = 'proposed') as asked,
       (select count(*)::int from step_in_asks k where k.shift_id = s.id and k.state = 'asked') as asking,
       r.brief, r.from_age, r.anybody, coalesce((select array_agg(k.name order by lower(k.name)) from role_needs n join skills k on k.id = n.skill_id
         where n.role = r.name), '{}') as needs, e.public_title as event_title, e.slug as event_slug
     from shifts s join events e on e.id = s.event_id join roles r on r.name = s.role
     where s.public_sign_up and s.removed_at is null and s.starts_at > $2 and e.slug is not null
       and (e.id = $1 or $1::uuid is null and e.listed and e.visibility = 'everyone' and not e.is_template and e.state in ${among(livingStates)})
     order by s.starts_at, s.role, s.id limit ${most}`,
    [eventId, now],
  );

/** Open shifts as anybody sees them, each with the event it belongs to. */
export const openShifts = async (tx: Queries, eventId: string | null, now: string) =>
  (await readOpen(tx, eventId, now)).map(
    ({ on, asked: waits, asking, anybody, eventTitle, eventSlug, ...shift }) => {
      const asked = isDecidedFirst({ ...shift, anybody });
      return {
        ...shift,
        // A place is kept for whoever is asked to step in. Where anybody may take it, who waits for a decision counts: that there is one would say something of them.
        filled: Math.min(shift.wished, on + (asked ? 0 : waits) + asking),
        asked,
        event: { title: eventTitle, slug: eventSlug },
      };
    },
  );
