import { spokenIn } from '#core/words/language.ts';
import { once } from '#core/words/once.ts';
import type { CalendarDate, WallTime, Zone } from './clock.ts';
import { daysBetween } from './dates.ts';
import { sayTimeOfDay } from './face.ts';

const asUtc = (wall: WallTime): Date => new Date(`${wall.length === 10 ? `${wall}T00:00` : wall}:00Z`);
const format = once(
  (locale: string, options: Intl.DateTimeFormatOptions) =>
    new Intl.DateTimeFormat(locale === 'en' ? 'en-GB' : locale === 'fr' ? 'fr-CA' : locale, {
      timeZone: 'UTC',
      ...options,
    }),
);

/** "Saturday 8 August 2026"; like all of these in the language that is spoken, unless another is asked for. */
export const sayLongDate = (wall: WallTime | CalendarDate, locale: string = spokenIn()): string =>
  format(locale, { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' })
    .format(asUtc(wall))
    .replace(',', '');

/** "8 Aug" or, with `weekday`, "Sat 8 Aug". */
export const sayShortDate = (
  wall: WallTime | CalendarDate,
  weekday = false,
  locale: string = spokenIn(),
): string =>
  format(locale, { ...(weekday ? { weekday: 'short' } : {}), day: 'numeric', month: 'short' })
    .format(asUtc(wall))
    .replace(',', '')
    .replace('Sept', 'Sep');

/** "Saturday". */
export const sayWeekday = (wall: WallTime | CalendarDate, locale: string = spokenIn()): string =>
  format(locale, { weekday: 'long' }).format(asUtc(wall));

/** "09:00", or "9:00 am", by the clock of whoever reads. */
export const sayTime = (wall: WallTime, locale: string = spokenIn()): string =>
  sayTimeOfDay(wall.slice(11, 16), locale);

/** A moment as it stands in a line: "Sat 1 Aug, 12:00". */
export const sayWall = (wall: WallTime, locale: string = spokenIn()): string =>
  `${sayShortDate(wall, true, locale)}, ${sayTime(wall, locale)}`;

export const nextDay = { en: 'next day', fr: 'le lendemain' };

/** "Halifax", the place part of a zone name. */
export const sayZone = (zone: Zone): string => zone.split('/').at(-1)!.replaceAll('_', ' ');

/**
 * Says when an event is: "Saturday 8 August 2026, 09:00–16:30". An end in the night or morning after is
 * said as such ("20:00–01:30 next day"); one that is a day later or more gets its own date.
 */
export function sayRange(
  starts: WallTime | CalendarDate,
  ends: WallTime | CalendarDate | null,
  locale: string = spokenIn(),
): string {
  const date = sayLongDate(starts, locale);
  const days = ends ? daysBetween(starts.slice(0, 10), ends.slice(0, 10)) : 0;
  // Whole days: dates without times.
  if (starts.length === 10) return ends && days ? `${date} – ${sayLongDate(ends, locale)}` : date;
  const head = `${date}, ${sayTime(starts, locale)}`;
  if (!ends) return head;
  if (days === 0) return `${head}–${sayTime(ends, locale)}`;
  if (days === 1 && ends.slice(11) < starts.slice(11))
    return `${head}–${sayTime(ends, locale)} ${nextDay[locale as keyof typeof nextDay] ?? nextDay.en}`;
  return `${head} – ${sayLongDate(ends, locale)}, ${sayTime(ends, locale)}`;
}
