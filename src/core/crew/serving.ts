import { type Instant, later, millisecondsBetween, plusMinutes } from '#core/time/clock.ts';
import type { AssignmentState } from './states.ts';

/** To how many minutes served hours are rounded, and which way. */
export const roundedTo = [1, 5, 6, 10, 15, 30, 60] as const;
export const roundedWays = ['nearest', 'up', 'down'] as const;
export interface Rounding {
  roundedTo: (typeof roundedTo)[number];
  rounded: (typeof roundedWays)[number];
}

/** When somebody of the crew came and left, as far as it was ticked off. */
export interface Presence {
  inAt: Instant | null;
  outAt: Instant | null;
}

interface Times {
  startsAt: Instant;
  endsAt: Instant;
}

const by = { nearest: Math.round, up: Math.ceil, down: Math.floor } as const;

/**
 * Hours that somebody served: from when they came, or from the start where they came before it or nobody ticked them off, until they
 * left, or until the end where nobody ticked that off. Rounded by the rule of the organization; never below nought.
 */
export function servedHours(
  { inAt, outAt }: Presence,
  shift: Times,
  { roundedTo, rounded }: Rounding,
): number {
  const from = inAt ? later(inAt, shift.startsAt) : shift.startsAt;
  const minutes = Math.max(0, millisecondsBetween(from, outAt ?? shift.endsAt) / 60_000);
  return Math.round(((by[rounded](minutes / roundedTo) * roundedTo) / 60) * 100) / 100;
}

/** How it stands with somebody of the crew, in the order it happens. */
const standings = ['to come', 'late', 'missing', 'here', 'still here', 'left', 'missed'] as const;
export type Standing = (typeof standings)[number];

/**
 * How it stands with somebody of the crew now. Late from the start of the shift on, missing once `lateMinutes` went by; what nobody
 * ticked off by the end is open. Still here: the end went by, and nobody ticked off that they left.
 */
export function standingOf(
  { state, inAt, outAt }: Presence & { state: AssignmentState },
  { startsAt, endsAt }: Times,
  now: Instant,
  lateMinutes: number,
): Standing | 'open' {
  if (state === 'missed') return 'missed';
  if (outAt || state === 'served') return 'left';
  if (inAt) return now < endsAt ? 'here' : 'still here';
  if (now >= endsAt) return 'open';
  if (now < startsAt) return 'to come';
  return now < plusMinutes(startsAt, lateMinutes) ? 'late' : 'missing';
}

/** How long before a shift somebody can be ticked off, and how long after it, in hours. */
const earliest = 12;
const latest = 36;

/**
 * Why somebody cannot be marked so now; null where they can. Once the crew lead put their hours right, or the shift is long over, the
 * doors change nothing of it any more.
 */
export function presenceRefusal(
  { state, inAt, corrected }: Presence & { state: AssignmentState; corrected: boolean },
  { startsAt, endsAt }: Times,
  to: 'in' | 'out' | 'expected',
  at: Instant,
): 'only-asked' | 'dropped' | 'not-in' | 'far-too-early' | 'hours-set' | 'long-over' | null {
  if (state === 'proposed') return 'only-asked';
  if (state === 'dropped') return 'dropped';
  if (corrected) return 'hours-set';
  if (at > plusMinutes(endsAt, latest * 60)) return 'long-over';
  if (to === 'out' && !inAt) return 'not-in';
  if (to === 'in' && at < plusMinutes(startsAt, -earliest * 60)) return 'far-too-early';
  return null;
}
