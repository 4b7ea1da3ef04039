import { digestOf } from '#core/events/french.ts';
import { type Instant, plusMinutes } from '#core/time/clock.ts';

/** Minutes to wait before each further try; after the last the message has failed for good. */
const retryMinutes = [5, 30, 120, 720] as const;
/** By what part of it each may wait longer: thousands that failed at once are not all tried again at once. */
const jitter = 0.2;

/** Where between none and all of the jitter something lies, by its id: the same each time, and as many here as there. */
export function spreadOf(id: string): number {
  // Mixed as MurmurHash3 ends: ids that are almost alike lie far apart.
  let mixed = Number.parseInt(digestOf(id), 16);
  mixed = Math.imul(mixed ^ (mixed >>> 16), 0x85ebca6b);
  mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2ae35);
  return ((mixed ^ (mixed >>> 16)) >>> 0) / 2 ** 32;
}

/** When a message that failed for the `attempts`-th time is tried again; null when it is given up. `spread` is from 0 to 1. */
export function nextTry(attempts: number, now: Instant, spread = 0): Instant | null {
  const minutes = retryMinutes[attempts - 1];
  return minutes === undefined ? null : plusMinutes(now, Math.round(minutes * (1 + jitter * spread)));
}
