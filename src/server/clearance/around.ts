import type { Around, clearanceContract } from '#contract/clearance.ts';
import type { Answered } from '#contract/endpoint.ts';
import { maySee } from '#core/access/stages.ts';
import { sayFact } from '#core/clearance/rules.ts';
import { isOpenForDecision, isTheirs } from '#core/clearance/steps.ts';
import { liveStates } from '#core/events/states.ts';
import type { Asker, Work } from '../app/app.ts';
import { among } from '../db/among.ts';
import { first, insert, type Queries } from '../db/database.ts';
import { readHistory } from '../events/history.ts';
import { type EventRow, readLive } from '../events/store.ts';
import { readStepsOf, sentBySame } from './steps.ts';

/** How many earlier events are shown, and how many others of the day. */
const mostBefore = 3;
const mostThatDay = 12;

const lookedAt = async (tx: Queries, eventId: string, staffId: string): Promise<string | null> =>
  (
    await first<{ lookedAt: string }>(
      tx,
      'select looked_at from clearance_looks where event_id = $1 and staff_id = $2',
      [eventId, staffId],
    )
  )?.lookedAt ?? null;

/** Writes down that somebody has seen a plan as it is now. */
export async function look(w: Work, eventId: string, staffId: string): Promise<void> {
  await w.tx.query('delete from clearance_looks where event_id = $1 and staff_id = $2', [eventId, staffId]);
  await insert(w.tx, 'clearance_looks', { staffId, eventId, lookedAt: w.now });
}

interface Before {
  id: string;
  title: string;
  startsLocal: string;
  unitId: string | null;
  partnerIds: string[];
  startsAt: string | null;
  endsAt: string | null;
}

/** Events that an event goes back to by copying, or that are dates of its series, before it. */
const earlier = (tx: Queries, event: EventRow): Promise<Before[]> =>
  tx.query<Before>(
    `select e.id, e.public_title as title, e.starts_local, e.unit_id, e.partner_ids, e.starts_at, e.ends_at from events e
     where coalesce(e.first_of, e.id) = $1 and e.id <> $2 and not e.is_template and e.starts_local < coalesce($3::timestamp, 'infinity')
       and exists (select 1 from clearances c where c.event_id = e.id and c.current) order by e.starts_local desc limit ${mostBefore}`,
    [event.firstOf ?? event.id, event.id, event.startsLocal],
  );

/** What somebody who decides asks beside a plan. */
export async function aroundOf(tx: Queries, event: EventRow, asker: Asker): Promise<Around> {
  const { staff, now } = asker;
  const seenAt = await lookedAt(tx, event.id, staff.id);
  const changes = seenAt
    ? (await readHistory(tx, event.id)).filter((c) => c.at > seenAt && c.staffId !== staff.id && !c.undoneBy)
    : [];
  const before = (await earlier(tx, event)).filter((e) => maySee(staff, e, 'clearance', now));
  const steps = await readStepsOf(
    tx,
    before.map((e) => e.id),
  );
  const thatDay = event.startsLocal
    ? await tx.query<Around['thatDay'][number]>(
        `select coalesce(nullif(e.public_title, ''), e.team_title) as title, e.starts_local, e.ends_local, v.name as venue,
           coalesce(e.venue_id = $2, false) as same_place
         from events e left join venues v on v.id = e.venue_id
         where e.id <> $1 and not e.is_template and e.state in ${among(liveStates)} and e.starts_local is not null
           and e.starts_local::date <= coalesce($4::timestamp, $3::timestamp)::date and coalesce(e.ends_local, e.starts_local)::date >= $3::timestamp::date
         order by 5 desc, e.starts_local limit ${mostThatDay}`,
        [event.id, event.venueId, event.startsLocal, event.endsLocal],
      )
    : [];
  return {
    seenAt,
    changes: changes.map(({ id, field, at, actor, before: was, after }) => ({
      id,
      field,
      at,
      actor,
      before: was,
      after,
    })),
    before: before.map((e) => ({
      eventId: e.id,
      title: e.title,
      startsLocal: e.startsLocal,
      steps: steps
        .get(e.id)!
        .filter((s) => s.state !== 'not needed')
        .map((s) => ({
          step: s.step,
          state: s.state,
          decidedBy: s.decidedBy,
          words: s.words,
          conditions: s.conditions.map((c) => c.what),
        })),
    })),
    thatDay,
  };
}

type Waiting = Answered<(typeof clearanceContract)['GET /api/clearance/waiting']>;

/** Events that are over stay in nobody's list of what waits. */
const lingerDays = 0;

/** Every step that waits for somebody, of events whose clearance they see. */
export async function waitingFor(tx: Queries, { staff, now }: Asker): Promise<Waiting> {
  const events = (await readLive(tx, now, lingerDays)).filter((e) => maySee(staff, e, 'clearance', now));
  const steps = await readStepsOf(
    tx,
    events.map((e) => e.id),
  );
  const found: Waiting = [];
  for (const event of events) {
    const theirs = steps.get(event.id)!.filter((s) => isOpenForDecision(s.state) && isTheirs(s, staff));
    if (!theirs.length || event.state === 'draft' || (await sentBySame(tx, event.id, staff.id))) continue;
    const seenAt = await lookedAt(tx, event.id, staff.id);
    const changed = seenAt
      ? (await readHistory(tx, event.id)).filter(
          (c) => c.at > seenAt && c.staffId !== staff.id && !c.undoneBy,
        ).length
      : null;
    for (const s of theirs)
      found.push({
        stepId: s.id,
        eventId: event.id,
        title: event.publicTitle || event.teamTitle,
        startsLocal: event.startsLocal,
        unit: event.unitName,
        step: s.step,
        because: s.because.map(sayFact),
        asks: s.asks,
        dueOn: s.dueOn,
        standsFor: isTheirs(s, { ...staff, standsFor: [] }) ? null : await standsForWhom(tx, s, staff),
        changed,
      });
  }
  return found.sort((a, b) => (a.dueOn < b.dueOn ? -1 : a.dueOn > b.dueOn ? 1 : 0));
}

async function standsForWhom(
  tx: Queries,
  step: Parameters<typeof isTheirs>[0],
  staff: Asker['staff'],
): Promise<string | null> {
  const whom = staff.standsFor.find((one) => isTheirs(step, one));
  if (!whom) return null;
  return (await first<{ name: string }>(tx, 'select name from staff where id = $1', [whom.id]))?.name ?? null;
}
