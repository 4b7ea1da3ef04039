import { datesToMake } from '#core/series/dates.ts';
import { readRule } from '#core/series/rule.ts';
import type { Recurrence } from '#core/series/slots.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { submit } from '../clearance/sending.ts';
import { clearedOf, neededSteps } from '../clearance/steps.ts';
import { update } from '../db/database.ts';
import { beginEvent } from '../events/beginning.ts';
import { lacksOfEvent } from '../events/readiness.ts';
import { readEvent, readOffers } from '../events/store.ts';
import { theOrganization } from '../staff/store.ts';
import { makeMove } from '../stages/commands.ts';
import { firstOfSeries, readDates, readSeries, type SeriesRow } from './store.ts';

/** When the dates of a series are. What is kept was read before. */
export function recurrenceOf(
  of: Pick<SeriesRow, 'rule' | 'startsLocal' | 'extra' | 'skipped' | 'zone'>,
): Recurrence {
  const read = of.rule === null ? null : readRule(of.rule);
  if (read && 'wrong' in read) throw new Error(`a rule that cannot be read is kept: ${of.rule}`);
  return { ...of, rule: read?.rule ?? null };
}

/**
 * Makes the dates of a series that are within its horizon and not there yet. Each is an event of its own, begun from the
 * pattern. Twice makes nothing twice. Answers their slots.
 */
export async function makeDates(w: Work, seriesId: string): Promise<string[]> {
  const { tx, now } = w;
  const series = await readSeries(tx, seriesId, true);
  const known = new Set((await readDates(tx, seriesId)).map((d) => d.slot));
  const { make, nextAt } = datesToMake(recurrenceOf(series), known, series.horizon, now);
  const firstOf = await firstOfSeries(tx, seriesId);
  for (const { slot, startsLocal, endsLocal } of make) {
    const eventId = await beginEvent(w, {
      title: series.title,
      from: series.patternId,
      to: startsLocal,
      ofSeries: { seriesId, slot, endsLocal, firstOf },
    });
    await record(w, 'date made', { eventId, seriesId });
    if (series.opens) await openWhereNobodyDecides(w, eventId);
  }
  await update(tx, 'series', seriesId, { nextAt });
  if (make.length)
    await record(w, 'series changed', {
      seriesId,
      how: 'made dates',
      detail: { title: series.title, dates: make.map((s) => s.slot) },
    });
  return make.map((s) => s.slot);
}

/** Opens a date that lacks nothing and needs no clearance, or was cleared with its series; any other waits for somebody to see to. */
async function openWhereNobodyDecides(w: Work, eventId: string): Promise<void> {
  const event = await readEvent(w.tx, eventId);
  const offers = await readOffers(w.tx, eventId);
  const { zone } = await theOrganization(w.tx);
  if (event.state === 'cleared') {
    if (!(await clearedOf(w.tx, eventId)).blocked.length) await makeMove(w, eventId, 'open', '');
    return;
  }
  if (lacksOfEvent(event, offers, dateOf(w.now, zone)).some((l) => l.stops)) return;
  if ((await neededSteps(w.tx, event, offers)).needed.steps.length) return;
  await submit(w, eventId);
  await makeMove(w, eventId, 'open', '');
}
