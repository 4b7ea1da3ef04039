import { say, words } from '#core/words/spoken.ts';
import type { CalendarDate } from './clock.ts';
import { daysBetween } from './dates.ts';
import { sayWeekday } from './say.ts';

type Distance = 'today' | 'tomorrow' | 'yesterday' | 'in' | 'ago';

function distanceOf(days: number): Distance {
  if (days === 0) return 'today';
  if (days === 1) return 'tomorrow';
  if (days === -1) return 'yesterday';
  return days > 0 ? 'in' : 'ago';
}

/** "today", "tomorrow", "in 23 days", "3 days ago". */
export function sayDistance(from: CalendarDate, to: CalendarDate): string {
  const days = daysBetween(from, to);
  return say(words().times[distanceOf(days)], { days: Math.abs(days) });
}

/** The consequence of a date typed into a form: "a Saturday, 23 days from now". */
export function sayConsequence(date: CalendarDate, today: CalendarDate): string {
  const days = daysBetween(today, date);
  return say(words().times[`weekday ${distanceOf(days)}`], {
    weekday: sayWeekday(date),
    days: Math.abs(days),
  });
}
