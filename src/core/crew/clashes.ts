import { type Instant, millisecondsBetween } from '#core/time/clock.ts';

/** A stretch of time somebody stands somewhere. */
export interface Stint {
  shiftId: string;
  label: string;
  startsAt: Instant;
  endsAt: Instant;
}

export interface Clash {
  kind: 'overlap' | 'short rest';
  withShiftId: string;
  /** The shift it is with, and the hours between the two. */
  label: string;
  hours: number;
}

/** Hours of rest wanted between the end of one shift and the start of the next on another day. */
export const restHours = 8;

/**
 * What speaks against putting somebody on a shift, given the shifts they have. Shifts that touch (one ends as the
 * other starts) do not overlap. Rest is looked at only overnight: shifts more than four hours apart.
 */
export function clashesOf(wanted: Stint, has: readonly Stint[]): Clash[] {
  const clashes: Clash[] = [];
  for (const other of has) {
    if (other.shiftId === wanted.shiftId) continue;
    if (wanted.startsAt < other.endsAt && other.startsAt < wanted.endsAt) {
      clashes.push({
        kind: 'overlap',
        withShiftId: other.shiftId,
        label: other.label,
        hours: 0,
      });
      continue;
    }
    const gap =
      wanted.startsAt >= other.endsAt
        ? millisecondsBetween(other.endsAt, wanted.startsAt)
        : millisecondsBetween(wanted.endsAt, other.startsAt);
    const hours = gap / 3_600_000;
    if (hours > 4 && hours < restHours)
      clashes.push({
        kind: 'short rest',
        withShiftId: other.shiftId,
        label: other.label,
        hours: Math.floor(hours),
      });
  }
  return clashes;
}

/** Hours of a shift, to the quarter. */
export const hoursOf = (startsAt: Instant, endsAt: Instant): number =>
  Math.round((millisecondsBetween(startsAt, endsAt) / 3_600_000) * 4) / 4;
