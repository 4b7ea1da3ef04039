import { type Instant, millisecondsBetween, type WallTime, type Zone } from '#core/time/clock.ts';
import { sayTime } from '#core/time/say.ts';
import { instantOf, meaningOf } from '#core/time/wallTime.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';

/** The longest a shift lasts, in hours. */
const longestShift = 24;

/** Hours of a shift, to the quarter. */
export const hoursOf = (startsAt: Instant, endsAt: Instant): number =>
  Math.round((millisecondsBetween(startsAt, endsAt) / 3_600_000) * 4) / 4;

/** When a shift is, by the clock where the event is. */
export interface ShiftTimes {
  startsLocal: WallTime;
  endsLocal: WallTime;
}

/**
 * The instants of a shift, with what is wrong with its times: one that a clock change skips, an end that is not after the start, and
 * more than a day. Hours are those that pass: a night in which the clock goes back is an hour longer.
 */
export function whenOf(
  times: ShiftTimes,
  zone: Zone,
): { startsAt: Instant; endsAt: Instant; problems: Wrong[] } {
  const startsAt = instantOf(times.startsLocal, zone);
  const endsAt = instantOf(times.endsLocal, zone);
  const skipped = (['startsLocal', 'endsLocal'] as const).filter(
    (path) => meaningOf(times[path], zone).kind === 'gap',
  );
  const problems = skipped.map((path) => wrongAt(path, 'time-skipped', { time: sayTime(times[path]) }));
  if (!problems.length && endsAt <= startsAt) problems.push(wrongAt('endsLocal', 'shift-ends-before'));
  else if (!problems.length && millisecondsBetween(startsAt, endsAt) > longestShift * 3_600_000)
    problems.push(wrongAt('endsLocal', 'shift-too-long', { hours: longestShift }));
  return { startsAt, endsAt, problems };
}
