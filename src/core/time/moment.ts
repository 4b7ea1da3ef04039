import { say, words } from '#core/words/spoken.ts';
import { type Instant, plusMinutes, type Zone } from './clock.ts';
import { instantOf, shiftWall, wallOf } from './wallTime.ts';

/** How far from an anchor something hangs. Negative is before. Days keep the wall time; hours are elapsed. */
export interface Offset {
  days: number;
  minutes: number;
}

/**
 * The instant that lies `offset` from an anchor in a zone.
 * Days are calendar days, so "a day before 09:00" is 09:00 also across a clock change; minutes are elapsed
 * time, so "an hour before" is always sixty minutes before. Same rule as RFC 5545 durations (section 3.3.6).
 */
export function momentFrom(anchor: Instant, offset: Offset, zone: Zone): Instant {
  const day =
    offset.days === 0 ? anchor : instantOf(shiftWall(wallOf(anchor, zone), { days: offset.days }), zone);
  return offset.minutes === 0 ? day : plusMinutes(day, offset.minutes);
}

/** Says how far from a moment something is: "1 day before the start", "2 hours after the end", "at the start". */
export function sayOffset(offset: Offset, moment: string): string {
  const { times } = words();
  if (offset.days === 0 && offset.minutes === 0) return say(times.at, { moment });
  const late = offset.days > 0 || (offset.days === 0 && offset.minutes > 0);
  const minutes = Math.abs(offset.minutes);
  const parts = [
    [times.days, Math.abs(offset.days)],
    [times.hours, Math.floor(minutes / 60)],
    [times.minutes, minutes % 60],
  ] as const;
  const span = parts.filter(([, n]) => n > 0).map(([text, n]) => say(text, { n }));
  return say(late ? times.after : times.before, { span: span.join(' '), moment });
}
