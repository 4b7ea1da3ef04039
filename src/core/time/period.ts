import type { CalendarDate } from './clock.ts';
import { shiftDate } from './dates.ts';

/** Times that figures are looked at for. `ever`: all there are. */
export const periods = ['ever', 'year', 'last year', 'month', 'last month'] as const;
export type Period = (typeof periods)[number];

/** The first and the last day of a period, both counted in, by the day it is; no end where it has none yet. */
export function daysOf(period: Period, today: CalendarDate): { from?: CalendarDate; until?: CalendarDate } {
  const month = `${today.slice(0, 7)}-01`;
  switch (period) {
    case 'ever':
      return {};
    case 'year':
      return { from: `${today.slice(0, 4)}-01-01` };
    case 'last year': {
      const year = Number(today.slice(0, 4)) - 1;
      return { from: `${year}-01-01`, until: `${year}-12-31` };
    }
    case 'month':
      return { from: month };
    case 'last month': {
      const until = shiftDate(month, -1);
      return { from: `${until.slice(0, 7)}-01`, until };
    }
  }
}
