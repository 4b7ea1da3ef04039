import type { SeriesDate, SeriesSettings } from '#contract/series.ts';
import type { EventReach } from '#core/access/stages.ts';
import { onShift } from '#core/crew/states.ts';
import type { PlanField } from '#core/events/parts.ts';
import { standing } from '#core/registration/states.ts';
import type { ExtraDate } from '#core/series/slots.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';

export interface SeriesRow extends SeriesSettings {
  id: string;
  patternId: string;
  extra: ExtraDate[];
  nextAt: string | null;
  version: number;
  /** The zone its times are those of. */
  zone: string;
  title: string;
}

/** One series; throws 404. With `lock`, others who change it wait until this one is through. */
export async function readSeries(tx: Queries, id: string, lock = false): Promise<SeriesRow> {
  const row = await first<SeriesRow>(
    tx,
    `select s.id, s.pattern_id, s.rule, s.starts_local, s.extra, s.skipped, s.horizon, s.opens, s.next_at, s.version, p.zone,
       coalesce(nullif(p.public_title, ''), nullif(p.team_title, ''), 'Untitled') as title
     from series s join events p on p.id = s.pattern_id where s.id = $1 ${lock ? 'for update of s' : ''}`,
    [id],
  );
  if (!row) throw notFound('This series');
  return row;
}

/** A date of a series with what changing it depends on. */
export interface DateRow extends Omit<SeriesDate, 'coming'>, EventReach {
  version: number;
}

/** The dates of a series, soonest first. */
export const readDates = (tx: Queries, seriesId: string): Promise<DateRow[]> =>
  tx.query<DateRow>(
    `select e.id, e.slot, e.starts_local, e.starts_at, e.ends_at, e.doors_at, e.unit_id, e.partner_ids, e.state, e.own, e.version,
       coalesce(nullif(e.public_title, ''), nullif(e.team_title, ''), 'Untitled') as title,
       ((select count(*) from registrations r where r.event_id = e.id and r.state in ${among(standing)})
         + (select count(*) from assignments a join shifts s on s.id = a.shift_id
            where s.event_id = e.id and s.removed_at is null and a.state in ${among(onShift)}))::int as people
     from events e where e.series_id = $1 order by e.slot`,
    [seriesId],
  );

/** The first event that the dates of a series go back to. */
export const firstOfSeries = async (tx: Queries, seriesId: string): Promise<string | null> =>
  (
    await first<{ firstOf: string | null }>(
      tx,
      'select first_of from events where series_id = $1 order by slot limit 1',
      [seriesId],
    )
  )?.firstOf ?? null;

/**
 * Events that go back to the same first one, and are of no series yet; of several at one time those that take place come first.
 * What was called off or hidden is among them: it is not to be made anew.
 */
export const readKin = (
  tx: Queries,
  firstOf: string,
  /** Only of its unit. */
  unitId: string | null,
): Promise<{ id: string; startsLocal: string }[]> =>
  tx.query<{ id: string; startsLocal: string }>(
    `select id, starts_local from events where first_of = $1 and unit_id is not distinct from $2 and series_id is null and not is_template and starts_local is not null
     order by state in ('called off', 'shelved'), starts_local, id`,
    [firstOf, unitId],
  );

/** Makes an event a date of a series. */
export const joinSeries = (tx: Queries, eventId: string, seriesId: string, slot: string): Promise<unknown> =>
  tx.query('update events set series_id = $2, slot = $3 where id = $1', [eventId, seriesId, slot]);

/** Takes an event out of its series. */
export const leaveSeries = (tx: Queries, eventId: string): Promise<unknown> =>
  tx.query("update events set series_id = null, slot = null, own = '{}' where id = $1", [eventId]);

/** Keeps which fields of a date are its own. */
export const saveOwn = (tx: Queries, eventId: string, own: readonly PlanField[]): Promise<unknown> =>
  tx.query('update events set own = $2::text[] where id = $1', [eventId, own]);

export const saveSlot = (tx: Queries, eventId: string, slot: string): Promise<unknown> =>
  tx.query('update events set slot = $2 where id = $1', [eventId, slot]);

/** Leaves out a slot of a series, where it has one. */
export const skipSlot = (tx: Queries, seriesId: string, slot: string): Promise<unknown> =>
  tx.query(
    `update series set skipped = (select array_agg(distinct s order by s) from unnest(skipped || $2::text) s),
       extra = coalesce((select jsonb_agg(x) from jsonb_array_elements(extra) x where x->>'startsLocal' <> $2), '[]'), version = version + 1
     where id = $1`,
    [seriesId, slot],
  );

/** A series, by its pattern, is another than those who have it open know. */
export const touchSeries = async (tx: Queries, patternId: string): Promise<void> => {
  await tx.query('update series set version = version + 1 where pattern_id = $1', [patternId]);
};

/** The series whose next date comes within the horizon first. */
export const nextSeriesSql =
  'select next_at as at, id from series where next_at is not null order by next_at, id limit 1';
