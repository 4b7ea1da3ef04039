import {
  type CalendarDate,
  earlier,
  type Instant,
  millisecondsBetween,
  type Zone,
} from '#core/time/clock.ts';
import { shiftDate } from '#core/time/dates.ts';
import { dateOf, instantOf } from '#core/time/wallTime.ts';

/** A place on a shift that somebody had: from when, and until when where they gave it up. */
export interface Held {
  contactId: string;
  shiftId: string;
  hours: number;
  madeAt: Instant;
  droppedAt: Instant | null;
  /** They helped at an event before this one. */
  returning: boolean;
}

/** A shift, as far as the figures go. */
export interface FiguredShift {
  id: string;
  wished: number;
  startsAt: Instant;
}

const dayMs = 86_400_000;

/** How many places were filled at the end of a day, so many days before that of the event. */
export interface FillPoint {
  days: number;
  filled: number;
}

/**
 * How the places filled, day by day from `most` days before that of the event to it, or to today where that is before it: as it was at
 * the end of each, or now. More on a shift than are wished count as wished: a crowd on one fills no other.
 */
export function fillOver(
  shifts: readonly FiguredShift[],
  held: readonly Held[],
  day: CalendarDate,
  zone: Zone,
  now: Instant,
  most: number,
): FillPoint[] {
  const wished = new Map(shifts.map((s) => [s.id, s.wished]));
  const today = dateOf(now, zone);
  const points: FillPoint[] = [];
  for (let days = most; days >= 0; days -= 1) {
    const date = shiftDate(day, -days);
    if (date > today) break;
    const at = earlier(now, instantOf(`${shiftDate(date, 1)}T00:00`, zone));
    const on = new Map<string, number>();
    for (const h of held)
      if (h.madeAt <= at && (h.droppedAt === null || h.droppedAt > at))
        on.set(h.shiftId, (on.get(h.shiftId) ?? 0) + 1);
    points.push({
      days,
      filled: [...on].reduce((sum, [id, n]) => sum + Math.min(n, wished.get(id) ?? 0), 0),
    });
  }
  return points;
}

/** Drop-outs by how long before their shift: a week and more, two days and more, later. */
export interface DropOuts {
  all: number;
  early: number;
  late: number;
  last: number;
  /** Of everybody who was ever put on a shift, from 0 to 1. */
  share: number;
}

/** Who gave a shift up or was taken off it, by how long before it began. Whoever changed places within the event did not drop out. */
export function dropOuts(shifts: readonly FiguredShift[], held: readonly Held[]): DropOuts {
  const starts = new Map(shifts.map((s) => [s.id, s.startsAt]));
  const moved = (h: Held) =>
    held.some((to) => to.contactId === h.contactId && to.shiftId !== h.shiftId && to.madeAt === h.droppedAt);
  const gone = held.filter((h) => h.droppedAt !== null && !moved(h));
  const ahead = gone.map((h) => millisecondsBetween(h.droppedAt!, starts.get(h.shiftId)!) / dayMs);
  const early = ahead.filter((d) => d >= 7).length;
  const late = ahead.filter((d) => d >= 2 && d < 7).length;
  return {
    all: gone.length,
    early,
    late,
    last: gone.length - early - late,
    share: held.length ? gone.length / held.length : 0,
  };
}

/** How hours are spread over people. */
export interface LoadSpread {
  people: number;
  least: number;
  median: number;
  most: number;
  /** The share of all hours that the busiest fifth of the people have, from 0 to 1: 0.2 where all have the same. */
  busiest: number;
  returning: number;
}

/** How the hours of an event are spread over those who have a shift now. */
export function loadSpread(held: readonly Held[]): LoadSpread {
  const hours = new Map<string, number>();
  const returning = new Set<string>();
  for (const h of held) {
    if (h.droppedAt !== null) continue;
    hours.set(h.contactId, (hours.get(h.contactId) ?? 0) + h.hours);
    if (h.returning) returning.add(h.contactId);
  }
  const loads = [...hours.values()].sort((a, b) => a - b);
  const sum = loads.reduce((all, n) => all + n, 0);
  const middle = Math.floor(loads.length / 2);
  const median = loads.length % 2 ? loads[middle]! : (loads[middle - 1]! + loads[middle]!) / 2;
  const fifth = Math.ceil(loads.length / 5);
  return {
    people: loads.length,
    least: loads[0] ?? 0,
    median: loads.length ? median : 0,
    most: loads.at(-1) ?? 0,
    busiest: sum ? loads.slice(-fifth).reduce((all, n) => all + n, 0) / sum : 0,
    returning: returning.size,
  };
}
