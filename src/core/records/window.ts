import type { Currency } from '#core/money/amount.ts';
import type { CalendarDate, Instant, Zone } from '#core/time/clock.ts';
import { shiftDate } from '#core/time/dates.ts';
import { instantOf } from '#core/time/wallTime.ts';
import type { Window } from './segment.ts';

/** Where and when questions are asked. */
export interface Asked {
  today: CalendarDate;
  zone: Zone;
  /** What gifts are counted in. */
  currency: Currency;
}

/** The days of a window, both included; null is open. */
export function daysOf(
  window: Window,
  { today }: Asked,
): { from: CalendarDate | null; to: CalendarDate | null } {
  const year = Number(today.slice(0, 4));
  switch (window.when) {
    case 'ever':
      return { from: null, to: null };
    case 'this year':
      return { from: `${year}-01-01`, to: null };
    case 'last year':
      return { from: `${year - 1}-01-01`, to: `${year - 1}-12-31` };
    case 'days':
      return { from: shiftDate(today, -(window.days ?? 0)), to: null };
    case 'between':
      return { from: window.from ?? null, to: window.to ?? null };
  }
}

/** The instants of a window: from the first, before the second; null is open. Days begin at midnight of the zone. */
export function instantsOf(window: Window, asked: Asked): { from: Instant | null; before: Instant | null } {
  const { from, to } = daysOf(window, asked);
  return {
    from: from ? instantOf(`${from}T00:00`, asked.zone) : null,
    before: to ? instantOf(`${shiftDate(to, 1)}T00:00`, asked.zone) : null,
  };
}

/** True when an instant lies in a window. */
export function inWindow(at: Instant, window: Window, asked: Asked): boolean {
  const { from, before } = instantsOf(window, asked);
  return (!from || at >= from) && (!before || at < before);
}
