import type { EventPlan } from '#contract/plan.ts';
import type { CarriedTo, Carrying } from '#contract/series.ts';
import { leads } from '#core/access/stages.ts';
import { alsoFollows, noConsequences } from '#core/events/consequences.ts';
import { type EventTimes, eventTimes, shiftAlong } from '#core/events/dated.ts';
import type { PlanField } from '#core/events/parts.ts';
import { shopAt } from '#core/offers/dated.ts';
import { carry, carryRows, sharedFields } from '#core/series/carry.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Asker, Work } from '../app/app.ts';
import type { PlanChange } from '../app/kinds.ts';
import { record } from '../app/record.ts';
import { changePlan } from '../changes/changing.ts';
import { changeTogether, type OneOfSeveral } from '../changes/together.ts';
import { update } from '../db/database.ts';
import { readPlan } from '../events/plan.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { invalid, refused } from '../http/problem.ts';
import { differing, isTime, type Pattern, planAround, readPattern, timesBy } from './pattern.ts';
import { readDates, readSeries, type SeriesRow, saveOwn } from './store.ts';

/** Whether a field can be taken over into the series: when a date begins is the rule's. */
export const carries = (field: PlanField): boolean => sharedFields.includes(field) && field !== 'startsLocal';

/** What was changed by hand on a date is its own from then on; what says the same as the series again is not. */
export async function keepOwn(w: Work, { eventId, fields, after, carried }: PlanChange): Promise<void> {
  const event = await readEvent(w.tx, eventId);
  if (!event.seriesId || !event.slot) return;
  const series = await readSeries(w.tx, event.seriesId);
  const differs = new Set(differing(await readPattern(w.tx, series.patternId), series, event.slot, after));
  const own = new Set(event.own);
  for (const field of fields) {
    if (differs.has(field) && !carried) own.add(field);
    else if (!differs.has(field)) own.delete(field);
  }
  await saveOwn(w.tx, eventId, [...own].sort());
}

async function seriesOf(
  w: Work,
  event: EventRow,
): Promise<{ series: SeriesRow; pattern: Pattern; slot: string }> {
  if (!event.seriesId || !event.slot) throw refused('in-no-series');
  const series = await readSeries(w.tx, event.seriesId, true);
  return { series, pattern: await readPattern(w.tx, series.patternId), slot: event.slot };
}

const timesIn = (fields: readonly PlanField[]): (keyof EventTimes)[] => fields.filter(isTime);

/** A wall time of one date, at the same distance from the start of another. */
const atAnother = (wall: string | null, from: string, to: string): string | null =>
  wall && shiftAlong(wall, from, to);

type Carried = Pick<CarriedTo, 'dates' | 'followed'>;

/**
 * Takes fields of a date over into its series: dates made from now on begin with them, and those that are still to come get them
 * too, but for what is their own, and for dates of others. `also` are dates that give up their own for it. All of it or nothing.
 */
export async function carryFields(
  w: Work,
  asker: Asker,
  event: EventRow,
  carrying: Carrying,
  trying: boolean,
): Promise<CarriedTo> {
  const { fields, settle } = carrying;
  const of = await seriesOf(w, event);
  const wrong = fields.find((field) => !carries(field));
  if (wrong) throw invalid([wrongAt('fields', 'series-start')]);
  return changeTogether(
    w,
    asker,
    of.series.patternId,
    { kind: 'changed', fields, settle },
    trying,
    (together) => carryOver(w, asker, event, of, carrying, together),
  );
}

async function carryOver(
  w: Work,
  asker: Asker,
  event: EventRow,
  { series, pattern, slot }: Awaited<ReturnType<typeof seriesOf>>,
  { fields, scope, also }: Carrying,
  together: OneOfSeveral,
): Promise<Carried> {
  const { tx, now } = w;
  const plan = await readPlan(tx, event);
  // A date that was moved to another day keeps its distances to where it begins now.
  const bySlot = timesBy(pattern, series, slot).startsLocal!;
  const starts = plan.startsLocal ? `${plan.startsLocal.slice(0, 10)}${bySlot.slice(10)}` : bySlot;
  await intoPattern(w, pattern, plan, starts, fields);
  const answer: Carried = { dates: [], followed: noConsequences };
  for (const date of await readDates(tx, series.id)) {
    if (date.id === event.id || (scope === 'later' && date.slot < slot)) continue;
    if (!['draft', 'in clearance', 'cleared', 'open', 'closed'].includes(date.state)) continue;
    if (date.startsAt !== null && date.startsAt <= now) continue;
    if (!leads(asker.staff, date, now)) continue;
    const keeps = also.includes(date.id) ? [] : fields.filter((field) => date.own.includes(field));
    const there = await readEvent(tx, date.id);
    const before = await readPlan(tx, there);
    const wanted = fields.filter((field) => !keeps.includes(field));
    const change = changeFor(w, plan, before, wanted, starts, there.startsLocal);
    const changes = Object.keys(change) as PlanField[];
    answer.dates.push({
      id: date.id,
      startsLocal: date.startsLocal,
      people: date.people,
      changes,
      keeps,
    });
    if (!changes.length) continue;
    answer.followed = alsoFollows(answer.followed, await together.change(date.id, there.version, change));
  }
  await saveOwn(
    tx,
    event.id,
    event.own.filter((field) => !fields.includes(field)),
  );
  await record(w, 'series changed', {
    seriesId: series.id,
    how: 'took over into the series',
    detail: {
      title: series.title,
      fields,
      scope,
      dates: answer.dates.filter((d) => d.changes.length).length,
    },
  });
  return answer;
}

/** What has to be saved on another date; only what it does not say already. */
function changeFor(
  w: Work,
  from: EventPlan,
  to: EventPlan,
  fields: readonly PlanField[],
  starts: string,
  otherStarts: string | null,
): Partial<EventPlan> {
  const change = carry(
    shopAt(from, starts, otherStarts),
    to,
    fields.filter((f) => !isTime(f)),
    () => w.app.ids.id(),
  );
  if (otherStarts)
    for (const field of timesIn(fields)) change[field] = atAnother(from[field], starts, otherStarts);
  return Object.fromEntries(
    Object.entries(change).filter(
      ([field, value]) => JSON.stringify(value) !== JSON.stringify(to[field as PlanField]),
    ),
  );
}

/** Dates made from now on begin with it. */
async function intoPattern(
  w: Work,
  pattern: Pattern,
  plan: EventPlan,
  starts: string,
  fields: readonly PlanField[],
): Promise<void> {
  const { event } = pattern;
  const change = carry(
    shopAt(plan, starts, event.waits?.startsLocal ?? null),
    pattern.plan,
    fields.filter((f) => !isTime(f)),
    () => w.app.ids.id(),
  );
  if (Object.keys(change).length) await changePlan(w, event.id, event.version, change, { carried: true });
  const times = timesIn(fields);
  if (event.waits && times.length) {
    const { startsLocal } = event.waits;
    await update(w.tx, 'events', event.id, {
      waits: {
        ...event.waits,
        ...Object.fromEntries(times.map((f) => [f, atAnother(plan[f], starts, startsLocal)])),
      },
    });
  }
}

/** Puts fields of a date back to what its series says; or some rows of one list alone. */
export async function putBack(
  w: Work,
  event: EventRow,
  fields: readonly PlanField[],
  rows: readonly string[] | null = null,
): Promise<void> {
  const { series, pattern, slot } = await seriesOf(w, event);
  const plan = await readPlan(w.tx, event);
  const by = planAround(pattern, series, slot, fields.includes('startsLocal') ? null : plan.startsLocal);
  // With its start all its times go back.
  const wanted = fields.includes('startsLocal') ? eventTimes : timesIn(fields);
  const times = Object.fromEntries(wanted.map((f) => [f, by[f]]));
  const shared = fields.filter((f) => sharedFields.includes(f) && !isTime(f));
  const newId = () => w.app.ids.id();
  const change = rows
    ? carryRows(by, plan, fields[0]!, rows, newId)
    : { ...carry(by, plan, shared, newId), ...times };
  await changePlan(w, event.id, event.version, change, { carried: true });
}
