import { beyondNormal, t975, z975 } from '#core/statistics/distributions.ts';
import type { CalendarDate } from '#core/time/clock.ts';
import { daysBetween, shiftDate } from '#core/time/dates.ts';

/** What an initiative wants to have reached by a day. */
export interface Goal {
  direction: 'more' | 'less';
  target: number;
  /** The first day that counts, and the last. */
  from: CalendarDate;
  by: CalendarDate;
}

/** What came in on a day. */
export interface DayFigure {
  on: CalendarDate;
  value: number;
}

export type GoalState = 'to come' | 'under way' | 'reached' | 'missed';

/** Where a goal stands and where it is heading. */
export interface Trend {
  state: GoalState;
  /** What it stands at today, or stood at when its time was over; null where nothing was measured yet. */
  value: number | null;
  /** The day it was reached. */
  reachedOn: CalendarDate | null;
  /** What it comes to by the goal date as things go, with its bounds of 95 %; null where it is over, or nothing can be said. */
  ahead: { value: number; low: number; high: number; likely: number } | null;
  /** What comes in in a month as things go, and what has to from now on. */
  monthly: { now: number; needed: number } | null;
}

const monthDays = 365.25 / 12;
/** The pace is that of the last year, so that every season counts once. */
const paceDays = 365;
/** The fewest days of a pace, and the fewest figures. */
const fewest = { days: 28, figures: 3 } as const;

const within = (days: readonly DayFigure[], from: CalendarDate, until: CalendarDate): DayFigure[] =>
  days.filter((d) => d.on >= from && d.on <= until).sort((a, b) => (a.on < b.on ? -1 : a.on > b.on ? 1 : 0));

/** Whether a value is what the goal wants. */
const isReached = ({ direction, target }: Goal, value: number): boolean =>
  direction === 'more' ? value >= target : value <= target;

/**
 * The trend of what adds up. What comes in on days is taken for a compound Poisson process with the pace of the last year: over T days of
 * T₀ it brings (T/T₀)·Σx, with variance Σx²·(T/T₀ + (T/T₀)²), the second part for the pace itself being only estimated.
 */
export function trendOfSum(goal: Goal, days: readonly DayFigure[], today: CalendarDate): Trend {
  const over = today > goal.by;
  const counted = within(days, goal.from, over ? goal.by : today);
  let value = 0;
  let reachedOn: CalendarDate | null = null;
  for (const day of counted) {
    value += day.value;
    if (!reachedOn && goal.direction === 'more' && value >= goal.target) reachedOn = day.on;
  }
  value = Math.round(value * 1000) / 1000;
  const none = { value, reachedOn, ahead: null, monthly: null };
  if (today < goal.from) return { ...none, state: 'to come' };
  if (over) return { ...none, state: isReached(goal, value) ? 'reached' : 'missed' };
  // What should stay below is missed as soon as it is above, and reached when its time is over.
  const state =
    goal.direction === 'more'
      ? reachedOn
        ? 'reached'
        : 'under way'
      : value > goal.target
        ? 'missed'
        : 'under way';
  const since = [goal.from, shiftDate(today, 1 - paceDays)].sort().at(-1)!;
  const observed = daysBetween(since, today) + 1;
  const left = daysBetween(today, goal.by);
  const recent = within(days, since, today);
  if (observed < fewest.days || recent.length < fewest.figures || left <= 0) return { ...none, state };
  const came = recent.reduce((sum, d) => sum + d.value, 0);
  const ratio = left / observed;
  const spread = Math.sqrt(recent.reduce((sum, d) => sum + d.value ** 2, 0) * (ratio + ratio ** 2));
  const expected = value + came * ratio;
  return {
    ...none,
    state,
    ahead: {
      value: expected,
      // What came in does not go away again.
      low: Math.max(value, expected - z975 * spread),
      high: expected + z975 * spread,
      likely: likely(goal, expected, spread),
    },
    monthly: {
      now: (came / observed) * monthDays,
      needed: Math.max(0, ((goal.target - value) / left) * monthDays),
    },
  };
}

/**
 * The trend of something measured again and again: a straight line through what was measured (least squares), with the bounds of one more
 * measurement on the goal date (Student).
 */
export function trendOfLatest(goal: Goal, days: readonly DayFigure[], today: CalendarDate): Trend {
  const over = today > goal.by;
  const counted = within(days, goal.from, over ? goal.by : today);
  const value = counted.at(-1)?.value ?? null;
  const reachedOn = value !== null && isReached(goal, value) ? counted.at(-1)!.on : null;
  const none = { value, reachedOn, ahead: null, monthly: null };
  if (today < goal.from) return { ...none, state: 'to come' };
  if (over) return { ...none, state: reachedOn ? 'reached' : 'missed' };
  const state = reachedOn ? 'reached' : 'under way';
  const n = counted.length;
  const x = counted.map((d) => daysBetween(goal.from, d.on));
  const meanX = x.reduce((a, b) => a + b, 0) / n;
  const meanY = counted.reduce((a, d) => a + d.value, 0) / n;
  const sxx = x.reduce((a, at) => a + (at - meanX) ** 2, 0);
  if (n < fewest.figures || sxx === 0) return { ...none, state };
  const slope = counted.reduce((a, d, i) => a + (x[i]! - meanX) * (d.value - meanY), 0) / sxx;
  const residual = counted.reduce((a, d, i) => a + (d.value - meanY - slope * (x[i]! - meanX)) ** 2, 0);
  const at = daysBetween(goal.from, goal.by);
  const expected = meanY + slope * (at - meanX);
  const spread = Math.sqrt((residual / (n - 2)) * (1 + 1 / n + (at - meanX) ** 2 / sxx));
  const half = t975(n - 2) * spread;
  const left = daysBetween(today, goal.by);
  return {
    ...none,
    state,
    ahead: {
      value: expected,
      low: expected - half,
      high: expected + half,
      likely: likely(goal, expected, spread),
    },
    monthly:
      left > 0 ? { now: slope * monthDays, needed: ((goal.target - value!) / left) * monthDays } : null,
  };
}

/** How likely what comes out meets the goal, by the normal distribution. */
function likely({ direction, target }: Goal, expected: number, spread: number): number {
  const ahead = direction === 'more' ? expected - target : target - expected;
  if (spread === 0) return ahead >= 0 ? 1 : 0;
  const tail = beyondNormal(Math.abs(ahead / spread)) / 2;
  return ahead >= 0 ? 1 - tail : tail;
}
