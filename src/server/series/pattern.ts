import type { EventPlan } from '#contract/plan.ts';
import { type EventTimes, eventTimes, moveTimes, putAt } from '#core/events/dated.ts';
import type { PlanField } from '#core/events/parts.ts';
import { shopAt } from '#core/offers/dated.ts';
import { differences } from '#core/series/carry.ts';
import { takesPlaceAt } from '#core/series/slots.ts';
import type { Queries } from '../db/database.ts';
import { readPlan } from '../events/plan.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import type { SeriesRow } from './store.ts';

/** What the dates of a series begin as: a template whose times wait around a start. */
export interface Pattern {
  event: EventRow;
  plan: EventPlan;
}

export async function readPattern(tx: Queries, patternId: string): Promise<Pattern> {
  const event = await readEvent(tx, patternId);
  return { event, plan: await readPlan(tx, event) };
}

/** The times that a date has by its series. */
export function timesBy(
  { event }: Pattern,
  series: Pick<SeriesRow, 'extra' | 'zone'>,
  slot: string,
): EventTimes {
  const startsLocal = takesPlaceAt(slot, series.zone);
  const { waits } = event;
  const times: EventTimes = waits
    ? putAt(waits, startsLocal)
    : { startsLocal, endsLocal: null, doorsLocal: null, registrationClosesLocal: null };
  const extra = series.extra.find((e) => e.startsLocal === slot);
  return extra?.endsLocal ? { ...times, endsLocal: extra.endsLocal } : times;
}

/** What the plan of a date would be by its series. */
const planBy = (pattern: Pattern, series: Pick<SeriesRow, 'extra' | 'zone'>, slot: string): EventPlan => ({
  ...pattern.plan,
  ...timesBy(pattern, series, slot),
});

/** The same seen from where the date really begins: what moved along with a start that was moved is not its own. */
export function planAround(
  pattern: Pattern,
  series: Pick<SeriesRow, 'extra' | 'zone'>,
  slot: string,
  startsLocal: string | null,
): EventPlan {
  const { event } = pattern;
  const by = planBy(pattern, series, slot);
  const sold = shopAt(by, event.waits?.startsLocal ?? event.startsLocal, startsLocal ?? by.startsLocal);
  return startsLocal ? { ...sold, ...moveTimes(by, startsLocal), startsLocal: by.startsLocal } : sold;
}

/** The fields in which a date differs from its series. */
export const differing = (
  pattern: Pattern,
  series: Pick<SeriesRow, 'extra' | 'zone'>,
  slot: string,
  plan: EventPlan,
): PlanField[] => differences(planAround(pattern, series, slot, plan.startsLocal), plan);

export const isTime = (field: PlanField): field is (typeof eventTimes)[number] =>
  (eventTimes as readonly string[]).includes(field);
