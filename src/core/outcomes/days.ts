import { fold } from '#core/contacts/names.ts';
import type { CalendarDate, Zone } from '#core/time/clock.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { Measure } from './measure.ts';
import type { Tally } from './tally.ts';
import { type DayFigure, type Goal, type Trend, trendOfLatest, trendOfSum } from './trend.ts';

/**
 * What tallies bring on each day, in the order of days: their sum; of what is named, how many things were named for the first time that day;
 * of what is measured again and again, the newest figure of the day.
 */
export function byDay(kind: Measure['kind'], tallies: readonly Tally[], zone: Zone): DayFigure[] {
  const days = new Map<CalendarDate, number>();
  const seen = new Set<string>();
  for (const t of [...tallies].sort((a, b) => order(a, b))) {
    const on = dateOf(t.countedAt, zone);
    if (kind === 'latest') days.set(on, t.value ?? 0);
    else if (kind !== 'distinct') days.set(on, (days.get(on) ?? 0) + (t.value ?? 0));
    else if (!seen.has(fold(t.thing))) {
      seen.add(fold(t.thing));
      days.set(on, (days.get(on) ?? 0) + 1);
    }
  }
  return [...days].map(([on, value]) => ({ on, value: Math.round(value * 1000) / 1000 }));
}

const order = (a: Tally, b: Tally): number =>
  a.countedAt.localeCompare(b.countedAt) || a.enteredAt.localeCompare(b.enteredAt);

/** Where a goal stands, by the kind of what it counts. How many different things there are still to be found cannot be told from their pace. */
export function trendOf(
  kind: Measure['kind'],
  goal: Goal,
  days: readonly DayFigure[],
  today: CalendarDate,
): Trend {
  if (kind === 'latest') return trendOfLatest(goal, days, today);
  const trend = trendOfSum(goal, days, today);
  return kind === 'distinct' ? { ...trend, ahead: null, monthly: null } : trend;
}

/** What a goal stood at day by day, up to today or to its end: for a chart. */
export function standingByDay(
  kind: Measure['kind'],
  goal: Pick<Goal, 'from' | 'by'>,
  days: readonly DayFigure[],
  today: CalendarDate,
): DayFigure[] {
  const until = today < goal.by ? today : goal.by;
  let sum = 0;
  return days
    .filter((d) => d.on >= goal.from && d.on <= until)
    .map(({ on, value }) => {
      sum += value;
      return { on, value: kind === 'latest' ? value : Math.round(sum * 1000) / 1000 };
    });
}
