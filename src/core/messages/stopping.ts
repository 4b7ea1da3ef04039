import type { Instant } from '#core/time/clock.ts';

/** That sending was stopped: when, and by whom. */
export interface Stopped {
  at: Instant;
  by: string;
}

/** What is sent all the same: without these nobody of the team could sign in, or see whether it works. */
export const sentAllTheSame = ['sign in', 'reset', 'invitation', 'test'] as const;
