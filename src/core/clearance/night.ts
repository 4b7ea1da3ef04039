import type { WallTime } from '#core/time/clock.ts';
import { minuteOf } from '#core/time/dates.ts';

/** A shift as the plan has it: from when to when, by the clock on the wall, and how many it needs. */
export interface NeededShift {
  startsLocal: WallTime;
  endsLocal: WallTime;
  needed: number;
}

/** The hours in which nobody should be by themselves: from this hour in the evening until that in the morning. */
const night = { from: 22, until: 6 } as const;
/** What ends after this hour ends late. */
const lateFrom = '23:00';

const day = 1440;
const atNight = (at: number): boolean => {
  const hour = (((at % day) + day) % day) / 60;
  return hour >= night.from || hour < night.until;
};

/** True when there is a moment at night at which the shifts need one person and no more: somebody would be alone. */
export function aloneAtNight(shifts: readonly NeededShift[]): boolean {
  const ranges = shifts
    .map((s) => ({ from: minuteOf(s.startsLocal), until: minuteOf(s.endsLocal), needed: s.needed }))
    .filter((s) => s.needed > 0 && s.until > s.from);
  // How many are needed changes where a shift begins or ends, and whether it is night at its hours.
  const moments = ranges.flatMap(({ from, until }) => [from, until, ...nightsIn(from, until)]);
  return moments.some(
    (at) =>
      atNight(at) &&
      ranges.reduce((sum, s) => (s.from <= at && at < s.until ? sum + s.needed : sum), 0) === 1,
  );
}

/** Where nights begin, from one minute to another. */
function nightsIn(from: number, until: number): number[] {
  const begins: number[] = [];
  for (let at = Math.floor(from / day) * day + night.from * 60; at < until; at += day)
    if (at >= from) begins.push(at);
  return begins;
}

/**
 * True when something ends late: after 23:00, or in the night after it. What lasts longer than a day is judged by the time of day
 * at which it ends, as nobody means the nights between its days.
 */
export function endsLate({
  startsLocal,
  endsLocal,
}: {
  startsLocal: WallTime | null;
  endsLocal: WallTime | null;
}): boolean {
  if (!startsLocal || !endsLocal || endsLocal <= startsLocal) return false;
  if (endsLocal.slice(11) > lateFrom) return true;
  const lasts = minuteOf(endsLocal) - minuteOf(startsLocal);
  const overnight = endsLocal.slice(0, 10) > startsLocal.slice(0, 10);
  return overnight && (lasts <= day || Number(endsLocal.slice(11, 13)) < night.until);
}
