import type { CalendarDate } from '#core/time/clock.ts';
import { ageOn } from '#core/time/wallTime.ts';

/** Whom a waiver is asked of. */
export type WaiverAudience = 'everyone' | 'minors' | 'adults';

export interface Participant {
  birthDate: CalendarDate | null;
  /** Said at registration to be under age, when no birth date is known. */
  saidMinor: boolean;
}

/**
 * What is asked of one participant. `self`: they sign. `guardian`: a guardian signs for them. `not asked`: the waiver
 * does not concern them.
 */
export type WaiverNeed = 'self' | 'guardian' | 'not asked';

/** True when a participant is under age on the event's date. An unknown birth date counts as grown up unless said otherwise. */
export function isMinor(p: Participant, eventDate: CalendarDate, ageOfMajority: number): boolean {
  return p.birthDate ? ageOn(p.birthDate, eventDate) < ageOfMajority : p.saidMinor;
}

/** Who has to sign for a participant: decided by their age on the event's date, not on the day of signing. */
export function needOf(
  audience: WaiverAudience,
  p: Participant,
  eventDate: CalendarDate,
  ageOfMajority: number,
): WaiverNeed {
  const minor = isMinor(p, eventDate, ageOfMajority);
  if (audience === 'minors' && !minor) return 'not asked';
  if (audience === 'adults' && minor) return 'not asked';
  return minor ? 'guardian' : 'self';
}
