import type { CalendarDate, WallTime } from '#core/time/clock.ts';
import { minuteOf, shiftDate, weekdayNumber } from '#core/time/dates.ts';
import { merged } from '#core/time/stretches.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';

/**
 * When somebody can serve, by the clock where the event is: on dates, or in every week (0 is Sunday). `from` and `to` are times of day;
 * `24:00` is the end of the day. An empty list is never.
 */
export type Availability =
  | { kind: 'dates'; stretches: { date: CalendarDate; from: string; to: string }[] }
  | { kind: 'week'; stretches: { weekday: number; from: string; to: string }[] };

/** A stretch of wall time in minutes since the beginning of 1970. */
type Stretch = readonly [from: number, to: number];

const aDay = 1440;
const minutes = (time: string): number => Number(time.slice(0, 2)) * 60 + Number(time.slice(3));
const timeOf = (at: number): string =>
  `${String(Math.floor(at / 60)).padStart(2, '0')}:${String(at % 60).padStart(2, '0')}`;

/** The dates from the first to the last, both included; a year of them at most. */
const datesBetween = (first: CalendarDate, last: CalendarDate): CalendarDate[] => {
  const dates: CalendarDate[] = [];
  for (let date = first; date <= last && dates.length < 366; date = shiftDate(date, 1)) dates.push(date);
  return dates;
};

/** The hours somebody offers, in all or in a week; what is offered twice counts once. */
export function hoursOffered(of: Availability): number {
  const days = new Map<string | number, Stretch[]>();
  const add = (day: string | number, from: string, to: string) =>
    days.set(day, [...(days.get(day) ?? []), [minutes(from), minutes(to)]]);
  if (of.kind === 'dates') for (const s of of.stretches) add(s.date, s.from, s.to);
  else for (const s of of.stretches) add(s.weekday, s.from, s.to);
  return [...days.values()].flatMap(merged).reduce((sum, [from, to]) => sum + to - from, 0) / 60;
}

/** When somebody can serve between two days, both included: in wall minutes, in order, what touches as one. */
export function stretchesBetween(of: Availability, first: CalendarDate, last: CalendarDate): Stretch[] {
  const at = (date: CalendarDate, from: string, to: string): Stretch => {
    const begin = minuteOf(`${date}T00:00`);
    return [begin + minutes(from), begin + minutes(to)];
  };
  if (of.kind === 'dates')
    return merged(
      of.stretches
        .filter((s) => s.date >= first && s.date <= last)
        .map(({ date, from, to }) => at(date, from, to)),
    );
  return merged(
    datesBetween(first, last).flatMap((date) =>
      of.stretches.filter((s) => s.weekday === weekdayNumber(date)).map(({ from, to }) => at(date, from, to)),
    ),
  );
}

/** Whether somebody can be there for all of a shift. Whoever said nothing of it may be asked for any. */
export function isThere(
  of: Availability | null,
  { startsLocal, endsLocal }: { startsLocal: WallTime; endsLocal: WallTime },
): boolean {
  if (!of) return true;
  const [start, end] = [minuteOf(startsLocal), minuteOf(endsLocal)];
  return stretchesBetween(of, startsLocal.slice(0, 10), endsLocal.slice(0, 10)).some(
    ([from, to]) => from <= start && end <= to,
  );
}

/** One cell of a grid on which availability is painted: an hour of a day. */
export interface Cell {
  /** The date, or the day of the week as a figure. */
  day: string;
  hour: number;
}

/** The cells of a grid that lie within what somebody said: those of which every minute does. */
export function cellsIn(of: Availability, days: readonly string[]): Cell[] {
  const said = new Map<string, Stretch[]>();
  for (const day of days) {
    const own =
      of.kind === 'dates'
        ? of.stretches.filter((s) => s.date === day)
        : of.stretches.filter((s) => String(s.weekday) === day);
    said.set(day, merged(own.map((s) => [minutes(s.from), minutes(s.to)] as const)));
  }
  return days.flatMap((day) =>
    Array.from({ length: 24 }, (_, hour) => ({ day, hour })).filter(({ hour }) =>
      said.get(day)!.some(([from, to]) => from <= hour * 60 && (hour + 1) * 60 <= to),
    ),
  );
}

/** What painted cells say: hours that touch as one stretch, day by day in the order of the grid. */
export function availabilityOf(
  kind: Availability['kind'],
  days: readonly string[],
  cells: readonly Cell[],
): Availability {
  const stretches = days.flatMap((day) =>
    merged(cells.filter((c) => c.day === day).map(({ hour }) => [hour * 60, (hour + 1) * 60] as const)).map(
      ([from, to]) => ({ day, from: timeOf(from), to: timeOf(to) }),
    ),
  );
  return kind === 'dates'
    ? { kind, stretches: stretches.map(({ day, ...s }) => ({ date: day, ...s })) }
    : { kind, stretches: stretches.map(({ day, ...s }) => ({ weekday: Number(day), ...s })) };
}

/** What is wrong with what somebody said, each at its stretch: it ends before it begins. What overlaps is one. */
export const problemsWithAvailability = (of: Availability): Wrong[] =>
  of.stretches.flatMap((s, at) =>
    minutes(s.to) > minutes(s.from) && minutes(s.to) <= aDay
      ? []
      : [wrongAt(`stretches.${at}.to`, 'stretch-ends-before')],
  );
