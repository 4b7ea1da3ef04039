import type { CalendarDate, Instant, WallTime } from '#core/time/clock.ts';
import { shiftDate } from '#core/time/dates.ts';
import { endOf } from './end.ts';

/** What the public’s calendar is narrowed to. Empty parts leave everything. */
export interface ListingFilter {
  /** Words that title, summary or place hold, all of them, in any case and without accents. */
  q: string;
  /** A kind of event or something that attracts people. */
  with: string;
  unit: string;
  place: string;
  price: '' | 'free' | 'paid';
  /** The first and the last day. */
  from: CalendarDate | '';
  to: CalendarDate | '';
  /** What is hidden: events from their end on, from their start on, or none. */
  hide: 'ended' | 'begun' | 'none';
  sort: 'date' | 'title';
}

export const everyEvent: ListingFilter = {
  q: '',
  with: '',
  unit: '',
  place: '',
  price: '',
  from: '',
  to: '',
  hide: 'ended',
  sort: 'date',
};

/** As much of an event as a listing looks at. */
export interface Listable {
  startsAt: Instant | null;
  endsAt: Instant | null;
  title: string;
  summary: string;
  french: { title: string; summary: string } | null;
  category: string;
  draws: readonly string[];
  unit: string | null;
  /** The venue, and how its place is told: with the room. */
  venue: string | null;
  place: string | null;
  startsLocal: WallTime | CalendarDate | null;
  endsLocal: WallTime | CalendarDate | null;
  /** The lowest and the highest price of a seat; null where nothing is on offer. */
  lowest: number | null;
  highest: number | null;
}

const folded = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

/** True where somebody can come without paying: something is offered for nothing. */
const isFree = (e: Listable): boolean => e.lowest === 0;
/** True where something has to be paid for, perhaps beside what is free. */
const isPaid = (e: Listable): boolean => (e.highest ?? 0) > 0;

/** Whether an event is among those asked for. One without a date is only where no day and no past is asked for. */
function isListed(e: Listable, f: ListingFilter, now: Instant): boolean {
  const end = endOf(e);
  if (f.hide === 'ended' && end !== null && end <= now) return false;
  if (f.hide === 'begun' && e.startsAt !== null && e.startsAt <= now) return false;
  const first = e.startsLocal?.slice(0, 10) ?? null;
  const last = e.endsLocal?.slice(0, 10) ?? first;
  if (f.from && (last === null || last < f.from)) return false;
  if (f.to && (first === null || first > f.to)) return false;
  if (f.with && e.category !== f.with && !e.draws.includes(f.with)) return false;
  if (f.unit && e.unit !== f.unit) return false;
  if (f.place && e.venue !== f.place) return false;
  if (f.price === 'free' && !isFree(e)) return false;
  if (f.price === 'paid' && !isPaid(e)) return false;
  const words = folded(f.q).split(/\s+/u).filter(Boolean);
  if (!words.length) return true;
  const text = folded(
    [e.title, e.summary, e.french?.title, e.french?.summary, e.place].filter(Boolean).join(' '),
  );
  return words.every((word) => text.includes(word));
}

const byTitle = new Intl.Collator('en', { sensitivity: 'base', numeric: true });

/** The events asked for, in the order asked for; those without a date come last. */
export function listingOf<E extends Listable>(events: readonly E[], f: ListingFilter, now: Instant): E[] {
  const found = events.filter((e) => isListed(e, f, now));
  const at = (e: E) => e.startsAt ?? '9';
  return found.sort((a, b) =>
    f.sort === 'title'
      ? byTitle.compare(a.title, b.title) || (at(a) < at(b) ? -1 : 1)
      : at(a) < at(b)
        ? -1
        : at(a) > at(b)
          ? 1
          : byTitle.compare(a.title, b.title),
  );
}

/** What a listing says of the price: nothing, free, one price, or from one to another; free is only said where all of it is. */
export function priceRange(
  lowest: number | null,
  highest: number | null,
): { kind: 'none' | 'free' } | { kind: 'one'; price: number } | { kind: 'range'; from: number; to: number } {
  if (lowest === null || highest === null) return { kind: 'none' };
  if (highest === 0) return { kind: 'free' };
  return lowest === highest ? { kind: 'one', price: highest } : { kind: 'range', from: lowest, to: highest };
}

/** The days of a month in whole weeks, from the day a week begins with (1 Monday to 7 Sunday): those of its neighbours too. */
export function weeksOf(month: string, firstDay: number): CalendarDate[][] {
  const first = `${month}-01`;
  const weekday = new Date(`${first}T00:00Z`).getUTCDay() || 7;
  let day = shiftDate(first, -((weekday - firstDay + 7) % 7));
  const weeks: CalendarDate[][] = [];
  do {
    weeks.push(Array.from({ length: 7 }, (_, at) => shiftDate(day, at)));
    day = shiftDate(day, 7);
  } while (day.slice(0, 7) === month);
  return weeks;
}

/** A month after or before another: `2026-12` and 1 is `2027-01`. */
export function shiftMonth(month: string, by: number): string {
  const [year, m] = month.split('-').map(Number) as [number, number];
  return new Date(Date.UTC(year, m - 1 + by, 1)).toISOString().slice(0, 7);
}
