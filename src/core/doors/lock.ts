import type { Instant } from '#core/time/clock.ts';

/** When the attendance of an event cannot be changed any more: so many days after it; null without a date. */
export const locksAt = (end: Instant | null, days: number): Instant | null =>
  end && new Date(Date.parse(end) + days * 86_400_000).toISOString();

/** How long attendance that was opened once more stays so, in hours. */
export const openAgainHours = 72;

/** True while attendance cannot be changed: its time is up, and nobody opened it once more. */
export const isLocked = (locks: Instant | null, openUntil: Instant | null, now: Instant): boolean =>
  locks !== null && locks <= now && (openUntil === null || openUntil <= now);
