/** An instant as ISO 8601 in UTC with milliseconds, e.g. `2026-07-09T12:20:00.000Z`. Sorts as text. */
export type Instant = string;

/** A wall time without zone, to the minute, e.g. `2026-08-08T09:00`. */
export type WallTime = string;

/** A calendar date, e.g. `2026-08-08`. */
export type CalendarDate = string;

/** An IANA time zone name, e.g. `America/Halifax`. */
export type Zone = string;

/** Where every part of the product reads the time; nothing else may ask the machine. */
export interface Clock {
  now(): Instant;
}

/** The machine's own clock. */
export const systemClock: Clock = { now: () => new Date().toISOString() };

/** A clock that stands still at one instant. */
export const standingClock = (at: Instant): Clock => ({ now: () => at });

/** Milliseconds from `a` to `b`; negative when `b` is earlier. */
export const millisecondsBetween = (a: Instant, b: Instant): number => Date.parse(b) - Date.parse(a);

/** Moves an instant by exact elapsed time, in minutes. */
export const plusMinutes = (at: Instant, minutes: number): Instant =>
  new Date(Date.parse(at) + minutes * 60_000).toISOString();

/** The later of two instants, or of two wall times. */
export const later = (a: Instant, b: Instant): Instant => (a > b ? a : b);

/** The earlier of two instants. */
export const earlier = (a: Instant, b: Instant): Instant => (a < b ? a : b);
