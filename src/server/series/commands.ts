import type { EventPlan } from '#contract/plan.ts';
import type { RecurrencePlan, SeriesSettings } from '#contract/series.ts';
import { readRule } from '#core/series/rule.ts';
import { nextSlots } from '#core/series/slots.ts';
import { isZone } from '#core/time/wallTime.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert } from '../db/database.ts';
import { beginEvent } from '../events/beginning.ts';
import { readPlan } from '../events/plan.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { type FieldProblem, invalid, refused } from '../http/problem.ts';
import { makeDates } from './making.ts';
import { differing, readPattern } from './pattern.ts';
import { joinSeries, leaveSeries, readKin, readSeries, saveOwn, skipSlot } from './store.ts';

/** Everything that is wrong with when a series is to take place. */
export function checkRecurrence(of: RecurrencePlan, zone: string): void {
  const problems: FieldProblem[] = [];
  const read = of.rule === null ? null : readRule(of.rule);
  if (read && 'wrong' in read) problems.push({ path: 'rule', ...read.wrong });
  for (const [at, extra] of of.extra.entries()) {
    if (extra.endsLocal && extra.endsLocal <= extra.startsLocal)
      problems.push(wrongAt(`extra.${at}.endsLocal`, 'end-before-start'));
    if (of.extra.findIndex((e) => e.startsLocal === extra.startsLocal) < at)
      problems.push(wrongAt(`extra.${at}.startsLocal`, 'date-twice'));
  }
  if (!isZone(zone)) problems.push(wrongAt('rule', 'not-a-zone', { zone }));
  if (problems.length) throw invalid(problems);
  const any = nextSlots({ ...of, zone, rule: read && 'rule' in read ? read.rule : null }, of.startsLocal, 1);
  if (!any.length) throw invalid([wrongAt('rule', 'rule-without-dates')]);
}

/**
 * Makes an event the first date of a series. Others that go back to the same first event become dates of it too, past and coming;
 * what they say otherwise is their own. The rest is made ahead.
 */
export async function beginSeries(
  w: Work,
  event: EventRow,
  of: SeriesSettings,
): Promise<{ id: string; made: number }> {
  const { tx, app, now } = w;
  if (event.seriesId) throw refused('in-a-series');
  if (event.isTemplate || !event.startsLocal || !event.firstOf) throw refused('series-needs-date');
  checkRecurrence(of, event.zone);
  const patternId = await beginEvent(w, { title: event.publicTitle, from: event.id, template: true });
  const id = app.ids.id();
  await insert(tx, 'series', {
    id,
    patternId,
    rule: of.rule,
    startsLocal: of.startsLocal,
    extra: of.extra,
    skipped: of.skipped,
    horizon: of.horizon,
    opens: of.opens,
    nextAt: null,
    createdBy: w.actor.staffId,
    createdAt: now,
    updatedAt: now,
  });
  await takeIn(w, id, event);
  await record(w, 'series changed', {
    seriesId: id,
    how: 'began a series',
    detail: { title: event.publicTitle },
  });
  return { id, made: (await makeDates(w, id)).length };
}

/** Takes in what already is of the series. Of several at one time the event itself, else the first. */
async function takeIn(w: Work, seriesId: string, event: EventRow): Promise<void> {
  const kin = await readKin(w.tx, event.firstOf!, event.unitId);
  const series = await readSeries(w.tx, seriesId);
  const pattern = await readPattern(w.tx, series.patternId);
  const taken = new Set<string>();
  for (const { id, startsLocal } of [...kin].sort(
    (a, b) => Number(b.id === event.id) - Number(a.id === event.id),
  )) {
    if (taken.has(startsLocal)) continue;
    taken.add(startsLocal);
    await joinSeries(w.tx, id, seriesId, startsLocal);
    await saveOwn(w.tx, id, differing(pattern, series, startsLocal, await planOf(w, id)));
  }
}

const planOf = async (w: Work, eventId: string): Promise<EventPlan> =>
  readPlan(w.tx, await readEvent(w.tx, eventId));

/** Takes an event out of its series: it stays as it is, and nothing is made in its place. */
export async function leave(w: Work, event: EventRow): Promise<void> {
  if (!event.seriesId || !event.slot) throw refused('in-no-series');
  await skipSlot(w.tx, event.seriesId, event.slot);
  await leaveSeries(w.tx, event.id);
  await record(w, 'series changed', {
    seriesId: event.seriesId,
    how: 'took a date out of the series',
    detail: { title: event.publicTitle, slot: event.slot },
  });
}
