import type { CalendarDate } from '#core/time/clock.ts';
import { ageOn } from '#core/time/dates.ts';

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

/** How old a participant is on the event's date, as far as it decides: under age, of age, or not known. */
export function ageStanding(
  p: Participant,
  eventDate: CalendarDate,
  ageOfMajority: number,
): 'minor' | 'adult' | 'unknown' {
  if (p.birthDate) return ageOn(p.birthDate, eventDate) < ageOfMajority ? 'minor' : 'adult';
  return p.saidMinor ? 'minor' : 'unknown';
}

/** True when a participant is known to be under age on the event's date. */
export const isMinor = (p: Participant, eventDate: CalendarDate, ageOfMajority: number): boolean =>
  ageStanding(p, eventDate, ageOfMajority) === 'minor';

/**
 * Who has to sign for a participant: decided by their age on the event's date, not on the day of signing. As long as the
 * age is not known a guardian is asked, whomever the waiver is for: a child must not pass as grown up.
 */
export function needOf(
  audience: WaiverAudience,
  p: Participant,
  eventDate: CalendarDate,
  ageOfMajority: number,
): WaiverNeed {
  const age = ageStanding(p, eventDate, ageOfMajority);
  if (audience === 'minors' && age === 'adult') return 'not asked';
  if (audience === 'adults' && age === 'minor') return 'not asked';
  return age === 'adult' ? 'self' : 'guardian';
}

/**
 * True when a signature still counts for somebody of that age: a child cannot have signed for itself, and whoever has come of age is
 * no longer signed for.
 */
export const covers = (signedBy: 'self' | 'guardian', age: ReturnType<typeof ageStanding>): boolean =>
  !(signedBy === 'self' && age === 'minor') && !(signedBy === 'guardian' && age === 'adult');

/** True at an event where it matters how old somebody is: a waiver is asked there, or children are admitted. */
export const ageDecides = (event: {
  waiverId: string | null;
  facts: Readonly<Record<string, boolean | number>>;
}): boolean => event.waiverId !== null || event.facts.minors === true;
