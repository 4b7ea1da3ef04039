import type { CalendarDate, WallTime } from '#core/time/clock.ts';
import { dayNumber, runAround } from '#core/time/dayRuns.ts';
import { shiftWall } from '#core/time/wallTime.ts';
import type { AgainstKind } from './againstKinds.ts';

/** What somebody does not want more than, of one event or one season; null: no limit. */
export interface Limits {
  shifts: number | null;
  hours: number | null;
  /** Days in a row. */
  inARow: number | null;
  /** The time of day by which they want to be done: `22:30`. */
  latest: string | null;
}

/** Nothing said. */
export const noLimits: Limits = { shifts: null, hours: null, inARow: null, latest: null };

/** What somebody has already, without the shift in question. */
export interface Load {
  shifts: number;
  hours: number;
  /** The days they serve on. */
  days: readonly CalendarDate[];
}

/** A shift that would come to it. */
interface Coming {
  startsLocal: WallTime;
  endsLocal: WallTime;
  hours: number;
}

/** The days on which a shift lies; one that ends at midnight is not on the day that begins then. */
export const datesOf = ({
  startsLocal,
  endsLocal,
}: Pick<Coming, 'startsLocal' | 'endsLocal'>): CalendarDate[] => {
  const first = startsLocal.slice(0, 10);
  const last = shiftWall(endsLocal, { minutes: -1 }).slice(0, 10);
  return first === last ? [first] : [first, last];
};

/** How many days in a row somebody serves once those of a shift are added: the longest run that it is part of. */
export function runOf(
  days: readonly CalendarDate[],
  shift: Pick<Coming, 'startsLocal' | 'endsLocal'>,
): number {
  const taken = new Set(days.map(dayNumber));
  const on = datesOf(shift);
  return runAround({ first: dayNumber(on[0]!), last: dayNumber(on.at(-1)!) }, (day) => taken.has(day));
}

/** Who wants to be done by a time before this one means the night. */
const morning = '05:00';
export const isNightly = (latest: string): boolean => latest < morning;

/** True of a shift that goes on after the time of day by which somebody wants to be done. */
const isLate = ({ startsLocal, endsLocal }: Coming, latest: string): boolean => {
  const overnight = endsLocal.slice(0, 10) > startsLocal.slice(0, 10);
  const after = endsLocal.slice(11) > latest;
  return isNightly(latest) ? overnight && after : overnight || after;
};

/** Every limit that a shift would go beyond, as what speaks against it. */
export function beyond(
  limits: Limits,
  load: Load,
  shift: Coming,
): { kind: AgainstKind; params: Record<string, string | number> }[] {
  const found: ReturnType<typeof beyond> = [];
  if (limits.shifts !== null && load.shifts + 1 > limits.shifts)
    found.push({ kind: 'over shifts', params: { most: limits.shifts, has: load.shifts } });
  const hours = load.hours + shift.hours;
  if (limits.hours !== null && hours > limits.hours)
    found.push({ kind: 'over hours', params: { most: limits.hours, hours } });
  const run = runOf(load.days, shift);
  if (limits.inARow !== null && run > limits.inARow)
    found.push({ kind: 'days in a row', params: { most: limits.inARow, days: run } });
  if (limits.latest !== null && isLate(shift, limits.latest))
    found.push({ kind: 'too late', params: { latest: limits.latest } });
  return found;
}
