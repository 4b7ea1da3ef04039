import { daysBetween } from '#core/time/dates.ts';
import { say, words } from '#core/words/spoken.ts';
import { type Measure, sayFigure } from './measure.ts';
import type { Trend } from './trend.ts';

/** A goal as it is said. */
export interface SaidGoal extends Trend, Pick<Measure, 'kind' | 'unit' | 'decimals'> {
  target: number;
  from: string;
  by: string;
}

/** From which likelihood something is said to be likely, and below which it is not. */
const sure = { likely: 0.8, unlikely: 0.2 } as const;

/** Where a goal stands and where it is heading, in one sentence. */
export function sayTrend(goal: SaidGoal): string {
  const { state, value, reachedOn, ahead, monthly, kind } = goal;
  const figure = (n: number) => sayFigure(n, goal);
  // What is to come is not known to the last digit.
  const about = (n: number) => sayFigure(Number(n.toPrecision(3)), goal);
  const said = words().trends;
  if (state === 'to come') return say(said['to come'], { from: { date: goal.from } });
  if (value === null) return say(said['no figures']);
  const base = { value: figure(value), target: figure(goal.target), by: { date: goal.by } };
  if (state === 'missed')
    return say(said[value > goal.target && kind !== 'latest' ? 'missed over' : 'missed'], base);
  if (state === 'reached' && kind === 'latest' && !ahead) return say(said['reached now'], base);
  if (state === 'reached' && kind !== 'latest')
    return reachedOn
      ? say(said.reached, { ...base, on: { date: reachedOn }, days: daysBetween(reachedOn, goal.by) })
      : say(said['reached late'], base);
  if (kind === 'distinct') return say(said.distinct, base);
  const latest = kind === 'latest';
  if (!ahead) return say(said[latest ? 'no pace latest' : 'no pace'], base);
  const how = ahead.likely >= sure.likely ? 'likely' : ahead.likely <= sure.unlikely ? 'unlikely' : 'open';
  return say(said[latest ? (`${how} latest` as const) : how], {
    ...base,
    ahead: about(ahead.value),
    low: about(ahead.low),
    high: about(ahead.high),
    needed: about(monthly?.needed ?? 0),
    now: about(monthly?.now ?? 0),
  });
}
