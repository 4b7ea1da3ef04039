import type { Instant, Zone } from './clock.ts';
import { sayShortDate, sayTime } from './say.ts';
import { wallOf } from './wallTime.ts';

/** "Thu 9 Jul, 09:20" in a zone, for the frame and lists. */
export function sayInstant(at: Instant, zone: Zone, locale = 'en'): string {
  const wall = wallOf(at, zone);
  return `${sayShortDate(wall, true, locale)}, ${sayTime(wall, locale)}`;
}
