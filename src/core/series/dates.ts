import { Temporal } from 'temporal-polyfill';
import type { CalendarDate, Instant, WallTime, Zone } from '#core/time/clock.ts';
import { daysBetween } from '#core/time/dates.ts';
import { instantOf, wallOf } from '#core/time/wallTime.ts';
import { horizons } from './horizon.ts';
import { nextSlots, type Recurrence, type Slot, slotsOf } from './slots.ts';

const afterMonths = (wall: WallTime, months: number): WallTime =>
  Temporal.PlainDateTime.from(wall).add({ months }).toString({ smallestUnit: 'minute' });

/** What is to be made of a series now, and when something is to be made again. */
export interface Making {
  make: Slot[];
  /** When the next date comes within the horizon; null where there is none. */
  nextAt: Instant | null;
}

/**
 * The dates of a series that are to be made: those still to come within the horizon that nobody made yet, never more than a
 * hundred and twenty at once. `known` are the slots that have their date, whatever became of it.
 */
export function datesToMake(
  of: Recurrence,
  known: ReadonlySet<WallTime>,
  horizonMonths: number,
  now: Instant,
): Making {
  const here = wallOf(now, of.zone);
  const until = afterMonths(here, horizonMonths);
  const ahead = slotsOf(of, here, until, horizons.dates + 1);
  const make = ahead.slice(0, horizons.dates).filter((s) => !known.has(s.slot));
  const [next] = nextSlots(
    of,
    ahead.length > horizons.dates ? ahead[horizons.dates]!.slot : minuteAfter(until),
    1,
  );
  return { make, nextAt: next ? momentOf(next, of.zone, horizonMonths, now, ahead) : null };
}

const minuteAfter = (wall: WallTime): WallTime =>
  Temporal.PlainDateTime.from(wall).add({ minutes: 1 }).toString({ smallestUnit: 'minute' });

/** When a date comes within the horizon; where there are too many, when the first of those made is over. */
function momentOf(next: Slot, zone: Zone, months: number, now: Instant, ahead: readonly Slot[]): Instant {
  const within = instantOf(afterMonths(next.slot, -months), zone);
  if (within > now) return within;
  return instantOf(minuteAfter(ahead[0]!.slot), zone);
}

/** A date that was made. */
export interface MadeDate {
  id: string;
  slot: WallTime;
}

/** What becomes of the dates of a series when its rule changes. */
export interface Reshaped<D extends MadeDate> {
  /** They stay as they are. */
  keep: D[];
  /** They go to another slot: on the same day at another time, or the nearest one that nobody has. */
  move: { date: D; to: Slot }[];
  /** There is no slot for them any more. */
  without: D[];
}

/** How many days a date goes to find a slot of the new rule. */
const farthest = 20;

/**
 * Brings dates that were made to the slots of a changed rule. One whose slot is still there stays; the others go to the nearest
 * slots that are left, the same day first, each slot to one date; what finds none within twenty days is without.
 */
export function reshape<D extends MadeDate>(dates: readonly D[], slots: readonly Slot[]): Reshaped<D> {
  const bySlot = new Map(slots.map((s) => [s.slot, s]));
  const keep = dates.filter((d) => bySlot.has(d.slot));
  for (const d of keep) bySlot.delete(d.slot);
  const others = dates.filter((d) => !keep.includes(d));
  const day = (wall: WallTime): CalendarDate => wall.slice(0, 10);
  const couples = others
    .flatMap((date) =>
      [...bySlot.values()].map((to) => ({
        date,
        to,
        days: Math.abs(daysBetween(day(date.slot), day(to.slot))),
      })),
    )
    .filter((c) => c.days <= farthest)
    .sort(
      (a, b) => a.days - b.days || (a.date.slot < b.date.slot ? -1 : 1) || (a.to.slot < b.to.slot ? -1 : 1),
    );
  const move: Reshaped<D>['move'] = [];
  for (const { date, to } of couples) {
    if (move.some((m) => m.date === date || m.to === to)) continue;
    move.push({ date, to });
  }
  move.sort((a, b) => (a.date.slot < b.date.slot ? -1 : 1));
  return { keep, move, without: others.filter((d) => !move.some((m) => m.date === d)) };
}
