import type { CalendarDate, Instant, Zone } from '#core/time/clock.ts';
import { shiftDate } from '#core/time/dates.ts';
import { instantOf, wallOf } from '#core/time/wallTime.ts';
import { isWorkingDay, workingDaysAfter } from '#core/time/workingDays.ts';

/** Hours of the day, `HH:MM` by the clock of whoever is written to, in which nothing is sent that can wait. They may go over midnight. */
export interface QuietHours {
  from: string;
  until: string;
}

/** What an organization begins with. */
export const usualQuiet: QuietHours = { from: '21:00', until: '08:00' };

/** What holds a message up that can wait. */
export interface Waiting {
  quiet: QuietHours | null;
  /** Only on Monday to Friday, but for the holidays of the organization. */
  workingDays: boolean;
  holidays: readonly CalendarDate[];
}

/** Whether a time of the day lies in quiet hours: their first minute does, the one they end with does not. */
export function isQuiet(time: string, { from, until }: QuietHours): boolean {
  if (from === until) return false;
  return from < until ? time >= from && time < until : time >= from || time < until;
}

/**
 * The first instant from `at` on at which something that can wait is sent, by the clock on the wall in `zone`: when quiet hours end,
 * on a working day where that is asked. `at` itself where nothing speaks against it.
 */
export function notBefore(at: Instant, { quiet, workingDays, holidays }: Waiting, zone: Zone): Instant {
  if (!quiet && !workingDays) return at;
  const wall = wallOf(at, zone);
  let [day, time] = [wall.slice(0, 10), wall.slice(11)];
  const inQuiet = (): boolean => quiet !== null && isQuiet(time, quiet);
  const endQuiet = () => {
    // Hours that go over midnight end on the next morning.
    if (quiet!.from > quiet!.until && time >= quiet!.from) day = shiftDate(day, 1);
    time = quiet!.until;
  };
  if (inQuiet()) endQuiet();
  if (workingDays && !isWorkingDay(day, holidays)) {
    day = workingDaysAfter(day, 1, holidays);
    if (inQuiet()) endQuiet();
  }
  const then = `${day}T${time}`;
  // Nothing moved: to the second, and in the second hour of two that are called the same, it is as it was.
  return then === wall ? at : instantOf(then, zone);
}
