import { type Instant, plusMinutes } from '#core/time/clock.ts';

/** Minutes to wait before each further try; after the last the message has failed for good. */
const retryMinutes = [5, 30, 120, 720] as const;

/** When a message that failed for the `attempts`-th time is tried again; null when it is given up. */
export function nextTry(attempts: number, now: Instant): Instant | null {
  const minutes = retryMinutes[attempts - 1];
  return minutes === undefined ? null : plusMinutes(now, minutes);
}
