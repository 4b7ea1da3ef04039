import type { CalendarDate } from '#core/time/clock.ts';
import { daysBetween, shiftDate } from '#core/time/dates.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import type { Amount } from './amount.ts';
import { shareOf, spread } from './spread.ts';

/** What goes back of the price of a seat that is given up: so many per cent as long as there are so many days to go, that day too. */
export interface RefundStep {
  days: number;
  percent: number;
}

/** The steps from the earliest on. */
const inOrder = (steps: readonly RefundStep[]): RefundStep[] => [...steps].sort((a, b) => b.days - a.days);

/**
 * How many per cent go back on a day, by the calendar where the event is. Where nothing is said, everything does; after the last
 * step, nothing.
 */
export function percentBack(
  steps: readonly RefundStep[],
  today: CalendarDate,
  eventDate: CalendarDate | null,
): number {
  if (!steps.length || !eventDate) return 100;
  const left = daysBetween(today, eventDate);
  return inOrder(steps).find((s) => left >= s.days)?.percent ?? 0;
}

/** Until which day what goes back, the earliest first; what comes after the last is nothing, unless everything is. */
export const sayableSteps = (
  steps: readonly RefundStep[],
  eventDate: CalendarDate | null,
): { until: CalendarDate | null; days: number; percent: number }[] =>
  inOrder(steps).map((s) => ({ ...s, until: eventDate && shiftDate(eventDate, -s.days) }));

/** What is kept of some units that are given up, unit by unit, of what came in for each; rounded once, in the favour of nobody. */
export function keptOf(received: readonly Amount[], percent: number): Amount[] {
  const all = received.reduce((sum, r) => sum + r, 0);
  return spread(all - shareOf(all, percent * 1000), received);
}

/** What does not go together: the same day twice, or less going back for giving up earlier. */
export function problemsWithRefunds(steps: readonly RefundStep[], path = 'refunds'): Wrong[] {
  return steps.flatMap((step, at) => {
    if (steps.findIndex((s) => s.days === step.days) < at)
      return [wrongAt(`${path}.${at}.days`, 'refund-day-twice')];
    return steps.some((s) => s.days > step.days && s.percent < step.percent)
      ? [wrongAt(`${path}.${at}.percent`, 'refund-more-later')]
      : [];
  });
}
