import { RRuleTemporal } from 'rrule-temporal';
import { Temporal } from 'temporal-polyfill';
import type { WallTime, Zone } from '#core/time/clock.ts';
import { shiftDate } from '#core/time/dates.ts';
import { meaningOf, wallOf } from '#core/time/wallTime.ts';
import type { Rule } from './rule.ts';

/** A date that does not follow from the rule, with its own times. */
export interface ExtraDate {
  startsLocal: WallTime;
  /** When it ends, where it is not as long as the others. */
  endsLocal: WallTime | null;
}

/** When the dates of a series are: a rule from a first start on, dates beside it, and those left out. */
export interface Recurrence {
  /** Null where there are only dates one by one. */
  rule: Rule | null;
  /** From where the rule counts (DTSTART), by the clock on the wall. */
  startsLocal: WallTime;
  zone: Zone;
  extra: readonly ExtraDate[];
  /** Starts that are left out (EXDATE). */
  skipped: readonly WallTime[];
}

/** One date of a series. */
export interface Slot {
  /** What it is known by (RECURRENCE-ID): the start that the rule, or the extra date, gave it. */
  slot: WallTime;
  /** When it starts: the same, but for times that a clock change removes. */
  startsLocal: WallTime;
  /** Only of extra dates with an end of their own. */
  endsLocal: WallTime | null;
  extra: boolean;
}

// Wall times are reckoned as if the clocks never changed; what they mean in the zone is asked afterwards.
const plain = (wall: WallTime): Temporal.ZonedDateTime => Temporal.ZonedDateTime.from(`${wall}:00Z[UTC]`);

/** The last wall time a rule may give. */
function untilOf({ until }: Rule, zone: Zone): WallTime | null {
  if (!until) return null;
  if (until.length === 10) return `${until}T23:59`;
  return until.endsWith('Z') ? wallOf(`${until.slice(0, 16)}:00.000Z`, zone) : until;
}

/** So few are found faster one after the other. */
const few = 24;

const some = <T>(list: T[]): T[] | undefined => (list.length ? list : undefined);

/**
 * The starts that a rule gives from one wall time to another, both counted, soonest first; at most `most`. The first start is one
 * only where the rule says so. A rule without an end is looked at no further than asked.
 */
export function startsOf(
  rule: Rule,
  dtstart: WallTime,
  zone: Zone,
  from: WallTime,
  to: WallTime,
  most: number,
): WallTime[] {
  const until = untilOf(rule, zone);
  const last = until && until < to ? until : to;
  if (last < from || last < dtstart) return [];
  const starts: WallTime[] = [];
  const library = new RRuleTemporal({
    freq: rule.freq,
    interval: rule.interval,
    count: rule.count ?? undefined,
    byMonth: some(rule.byMonth),
    byWeekNo: some(rule.byWeekNo),
    byYearDay: some(rule.byYearDay),
    byMonthDay: some(rule.byMonthDay),
    byDay: some(rule.byDay.map((d) => `${d.nth ?? ''}${d.day}`)),
    byHour: some(rule.byHour),
    byMinute: some(rule.byMinute),
    bySetPos: some(rule.bySetPos),
    wkst: rule.weekStart,
    dtstart: plain(dtstart),
    until: plain(last),
    tzid: 'UTC',
    cache: false,
  });
  const begin = plain(from > dtstart ? from : dtstart);
  if (most <= few || rule.freq === 'HOURLY' || rule.freq === 'MINUTELY') {
    // One after the other, as many as are wanted, where there may be many more.
    for (let at = library.next(begin, true); at && starts.length < most; at = library.next(at))
      starts.push(String(at).slice(0, 16));
    return starts;
  }
  for (const at of library.between(begin, plain(last), true)) {
    starts.push(String(at).slice(0, 16));
    if (starts.length >= most) break;
  }
  return starts;
}

/**
 * A start as it takes place: one that a clock change removes is as much later as the clock jumped (RFC 5545 section 3.3.5, by
 * which section 3.3.10 reads the times of a rule).
 */
export function takesPlaceAt(wall: WallTime, zone: Zone): WallTime {
  const meaning = meaningOf(wall, zone);
  return meaning.kind === 'gap' ? meaning.after : wall;
}

/** The dates of a series from one wall time to another, both counted, soonest first; at most `most` of them. */
export function slotsOf(of: Recurrence, from: WallTime, to: WallTime, most: number): Slot[] {
  const skipped = new Set(of.skipped);
  const extra = of.extra.filter((e) => e.startsLocal >= from && e.startsLocal <= to);
  const own = new Set(extra.map((e) => e.startsLocal));
  const given = of.rule ? startsOf(of.rule, of.startsLocal, of.zone, from, to, most + of.skipped.length) : [];
  const slots = [
    ...given.filter((s) => !own.has(s)).map((slot) => ({ slot, endsLocal: null, extra: false })),
    ...extra.map((e) => ({ slot: e.startsLocal, endsLocal: e.endsLocal, extra: true })),
  ];
  return slots
    .filter((s) => !skipped.has(s.slot))
    .sort((a, b) => (a.slot < b.slot ? -1 : 1))
    .slice(0, most)
    .map((s) => ({ ...s, startsLocal: takesPlaceAt(s.slot, of.zone) }));
}

/** The next dates from a wall time on. A rule that gives none is looked through for `years` years. */
export const nextSlots = (of: Recurrence, from: WallTime, most: number, years = 12): Slot[] =>
  slotsOf(of, from, `${shiftDate(from.slice(0, 10), years * 366)}T23:59`, most);
