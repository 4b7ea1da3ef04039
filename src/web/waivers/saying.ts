import { sayLongDate } from '#core/time/say.ts';
import type { Holds } from '#core/waivers/holding.ts';
import { phrase } from '#web/words/phrase.ts';

/** "31 October": a day of every year. */
const sayYearDay = (day: string): string =>
  new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', timeZone: 'UTC' }).format(
    new Date(`2001-${day}T00:00Z`),
  );

/** For how long a signature holds, in a few words. */
export function sayHolds(holds: Holds): string {
  switch (holds.for) {
    case 'event':
      return phrase('waivers.holdsEvent');
    case 'year':
      return phrase('waivers.holdsYear');
    case 'season':
      return phrase('waivers.holdsSeason', { day: sayYearDay(holds.ends) });
    case 'until':
      return phrase('waivers.holdsUntil', { day: sayLongDate(holds.date) });
  }
}
