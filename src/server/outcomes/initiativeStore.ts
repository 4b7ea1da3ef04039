import type { EventReach } from '#core/access/stages.ts';
import { first, type Queries } from '../db/database.ts';
import type { TallyRow } from './tallyStore.ts';

interface InitiativeRow {
  id: string;
  name: string;
  about: string;
  version: number;
  fundId: string | null;
}

/** Every initiative by name, with how many events count towards it. */
export const readInitiatives = (tx: Queries) =>
  tx.query<{ id: string; name: string; about: string; events: number }>(
    `select i.id, i.name, i.about, (select count(*)::int from events e where e.outcomes -> 'initiativeIds' ? i.id::text and not e.is_template
       and e.state not in ('called off', 'shelved')) as events
     from initiatives i order by i.name`,
  );

export const readInitiative = (tx: Queries, id: string, lock = false): Promise<InitiativeRow | null> =>
  first<InitiativeRow>(
    tx,
    `select id, name, about, version, fund_id from initiatives where id = $1 ${lock ? 'for update' : ''}`,
    [id],
  );

/** What an initiative wants to have reached by a day. */
export interface GoalRow {
  id: string;
  initiativeId: string;
  of: 'measure' | 'gifts' | 'hours';
  measureId: string | null;
  target: number;
  from: string;
  by: string;
}

export const readGoals = (tx: Queries, initiativeIds: readonly string[]): Promise<GoalRow[]> =>
  tx.query<GoalRow>(
    `select id, initiative_id, of, measure_id, target::float8 as target, from_on as "from", by_on as "by" from initiative_goals
     where initiative_id = any($1) order by position, id`,
    [initiativeIds],
  );

/** The events that count towards an initiative, as SQL over its id in $1. */
const itsEvents =
  "select id from events where outcomes -> 'initiativeIds' ? $1::text and not is_template and state not in ('called off', 'shelved')";

/** What counts of a measure at the events of an initiative. */
export const readTalliesOf = (tx: Queries, initiativeId: string, measureId: string) =>
  tx.query<Pick<TallyRow, 'eventId' | 'measureId' | 'value' | 'thing' | 'countedAt' | 'enteredAt'>>(
    `select event_id, measure_id, value::float8 as value, thing, counted_at, entered_at from tallies
     where state = 'counted' and measure_id = $2 and event_id in (${itsEvents})`,
    [initiativeId, measureId],
  );

/** Gifts for an initiative or to its fund, in whole units of a currency. */
export const readGiftsOf = (tx: Queries, initiativeId: string, currency: string) =>
  tx.query<{ eventId: string | null; at: string; value: number }>(
    `select event_id, at, amount / 100.0::float8 as value from donations
     where currency = $2 and (initiative_id = $1 or fund_id = (select fund_id from initiatives where id = $1))`,
    [initiativeId, currency],
  );

/** Hours served at the events of an initiative. */
export const readHoursOf = (tx: Queries, initiativeId: string) =>
  tx.query<{ eventId: string; at: string; value: number }>(
    `select s.event_id, s.starts_at as at, a.hours::float8 as value from assignments a join shifts s on s.id = a.shift_id
     where a.state = 'served' and a.hours > 0 and s.event_id in (${itsEvents})`,
    [initiativeId],
  );

/** Events that count towards an initiative, the newest first, with what decides who sees them. */
export const readEventsOf = (tx: Queries, initiativeId: string) =>
  tx.query<EventReach & { title: string }>(
    `select id, public_title as title, starts_at, ends_at, doors_at, unit_id, partner_ids from events where id in (${itsEvents})
     order by starts_at desc nulls last, id limit 300`,
    [initiativeId],
  );

export const isFund = async (tx: Queries, id: string): Promise<boolean> =>
  (await first(tx, 'select 1 as x from funds where id = $1', [id])) !== null;
