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

const count = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`;

/** Says an offset in words: "1 day before", "2 hours after", "at". */
export function sayOffset(offset: Offset): string {
  if (offset.days === 0 && offset.minutes === 0) return 'at';
  const late = offset.days > 0 || (offset.days === 0 && offset.minutes > 0);
  const parts: string[] = [];
  if (offset.days !== 0) parts.push(count(Math.abs(offset.days), 'day'));
  const minutes = Math.abs(offset.minutes);
  if (minutes >= 60) parts.push(count(Math.floor(minutes / 60), 'hour'));
  if (minutes % 60) parts.push(count(minutes % 60, 'minute'));
  return `${parts.join(' ')} ${late ? 'after' : 'before'}`;
}
