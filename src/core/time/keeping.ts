import { earlier, type Instant, plusMinutes } from './clock.ts';

/** How long something is kept for somebody, in minutes. */
export interface Keeping {
  /** At most, and at least; between them it is a sixth of what is left until the last call. */
  longest: number;
  shortest: number;
  /** Before the start: after that nothing is offered any more. */
  lastCall: number;
}

/** Until when something offered now is kept for somebody: the nearer the start, the shorter; never beyond the last call. */
export function keptUntil(
  now: Instant,
  startsAt: Instant,
  { longest, shortest, lastCall }: Keeping,
): Instant {
  const last = plusMinutes(startsAt, -lastCall);
  const left = (Date.parse(last) - Date.parse(now)) / 60_000;
  return earlier(plusMinutes(now, Math.round(Math.min(longest, Math.max(shortest, left / 6)))), last);
}
