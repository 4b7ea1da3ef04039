import type { Instant } from '#core/time/clock.ts';

/** A stretch of time. */
export interface Stretch {
  startsAt: Instant;
  endsAt: Instant;
}

/** The shortest part a shift is cut into, and the step cuts are made at, in minutes. */
const shortestPart = 15;
const step = 5;

/** Into how many parts a stretch can be cut at most. */
export const mostParts = (startsAt: Instant, endsAt: Instant): number =>
  Math.max(1, Math.floor((Date.parse(endsAt) - Date.parse(startsAt)) / 60_000 / shortestPart));

/**
 * Cuts a stretch into parts of one length, to five minutes. Each but the last goes on for `handover` minutes after the next began, so
 * that one shows the other what is to be done; never past the end. Throws a RangeError for fewer than two parts, or more than fit.
 */
export function cut({ startsAt, endsAt }: Stretch, parts: number, handover: number): Stretch[] {
  if (!Number.isInteger(parts) || parts < 2 || parts > mostParts(startsAt, endsAt))
    throw new RangeError(`cannot be cut into ${parts}`);
  const start = Date.parse(startsAt) / 60_000;
  const whole = Date.parse(endsAt) / 60_000 - start;
  const at = (minutes: number): Instant => new Date((start + minutes) * 60_000).toISOString();
  const edges = Array.from({ length: parts + 1 }, (_, n) =>
    n === parts ? whole : Math.round((whole * n) / parts / step) * step,
  );
  return Array.from({ length: parts }, (_, n) => ({
    startsAt: at(edges[n]!),
    endsAt: at(Math.min(whole, edges[n + 1]! + (n < parts - 1 ? handover : 0))),
  }));
}
