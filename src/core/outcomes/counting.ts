import { type Instant, plusMinutes, type Zone } from '#core/time/clock.ts';
import { momentFrom } from '#core/time/moment.ts';

/** When an event can be counted at: from so many days before it begins to so many after it has ended. */
export interface Counting {
  opensDays: number;
  closesDays: number;
}

/** A stretch of time, in instants. */
export interface CountingWindow {
  from: Instant;
  until: Instant;
}

/** The counting window of an event; null before it has a date. One whose end nobody said ends when it begins. */
export function countingWindow(
  event: { startsAt: Instant | null; endsAt: Instant | null; zone: Zone },
  { opensDays, closesDays }: Counting,
): CountingWindow | null {
  if (!event.startsAt) return null;
  const at = (anchor: Instant, days: number) =>
    days ? momentFrom(anchor, { days, minutes: 0 }, event.zone) : anchor;
  return { from: at(event.startsAt, -opensDays), until: at(event.endsAt ?? event.startsAt, closesDays) };
}

/** Whether people can count now, and if not, why. */
export const countingState = (
  window: CountingWindow | null,
  now: Instant,
): 'undated' | 'not yet' | 'open' | 'over' => {
  if (!window) return 'undated';
  if (now < window.from) return 'not yet';
  return now > window.until ? 'over' : 'open';
};

/** Minutes the clock of a phone may be ahead. */
const aheadMinutes = 5;

/** What is wrong with the time something is said to have been counted at. */
export function problemWithTime(
  countedAt: Instant,
  window: CountingWindow | null,
  now: Instant,
): 'tally-ahead' | 'tally-outside' | 'tally-undated' | null {
  if (!window) return 'tally-undated';
  if (countedAt > plusMinutes(now, aheadMinutes)) return 'tally-ahead';
  return countedAt < window.from || countedAt > window.until ? 'tally-outside' : null;
}
