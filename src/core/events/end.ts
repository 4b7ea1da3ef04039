import type { Instant } from '#core/time/clock.ts';

/** When an event is over: its end, or its start where it has none; null without a date. */
export const endOf = (event: { startsAt: Instant | null; endsAt: Instant | null }): Instant | null =>
  event.endsAt ?? event.startsAt;

/** True once an event is over. */
export const isOver = (
  event: { startsAt: Instant | null; endsAt: Instant | null },
  now: Instant,
): boolean => {
  const end = endOf(event);
  return end !== null && end <= now;
};
