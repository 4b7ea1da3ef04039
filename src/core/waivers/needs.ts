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

/** How it stands with one waiver and one participant. `self`, `guardian`: who still has to sign it. */
export const waiverStandings = ['not asked', 'self', 'guardian', 'signed'] as const;
export type WaiverStanding = (typeof waiverStandings)[number];

/** A waiver that is asked where somebody takes part, with who signed it for them. */
export interface AskedWaiver {
  id: string;
  audience: WaiverAudience;
  signedBy: 'self' | 'guardian' | null;
}

/** How it stands with all that is asked of one participant. */
export interface Signing {
  /** Of all of them together: who still has to sign something, else whether anything was signed. */
  standing: WaiverStanding;
  /** The waivers that are still to be signed, in the order they are asked. */
  toSign: string[];
  /** Those that are signed. */
  signed: string[];
}

/** What is asked of somebody where no waiver is. */
export const nothingToSign: Signing = { standing: 'not asked', toSign: [], signed: [] };

/**
 * How it stands with the waivers asked of a participant: that of the event, and that of what they chose there. Who signs hangs on
 * age alone, so it is the same for all that are open.
 */
export function signingOf(
  asked: readonly AskedWaiver[],
  p: Participant,
  eventDate: CalendarDate,
  ageOfMajority: number,
): Signing {
  const age = ageStanding(p, eventDate, ageOfMajority);
  const each = asked.map(({ id, audience, signedBy }) => ({
    id,
    // Signed for another day, somebody may be of another age on this one.
    standing:
      signedBy && covers(signedBy, age) ? ('signed' as const) : needOf(audience, p, eventDate, ageOfMajority),
  }));
  const open = each.filter((w) => w.standing === 'self' || w.standing === 'guardian');
  const signed = each.filter((w) => w.standing === 'signed');
  return {
    standing: (open[0] ?? signed[0])?.standing ?? 'not asked',
    toSign: open.map((w) => w.id),
    signed: signed.map((w) => w.id),
  };
}

/**
 * True when a signature still counts for somebody of that age: a child cannot have signed for itself, and whoever has come of age is
 * no longer signed for.
 */
export const covers = (signedBy: 'self' | 'guardian', age: ReturnType<typeof ageStanding>): boolean =>
  !(signedBy === 'self' && age === 'minor') && !(signedBy === 'guardian' && age === 'adult');

/** True at an event where it matters how old everybody is: a waiver is asked there, or children are admitted. */
export const ageDecides = (event: {
  waiverId: string | null;
  facts: Readonly<Record<string, boolean | number>>;
}): boolean => event.waiverId !== null || event.facts.minors === true;

/** True where it matters how old whoever takes an offer is: it is for some ages, or has a waiver of its own. */
export const offerAsksAge = (offer: {
  waiverId: string | null;
  fromAge: number | null;
  toAge: number | null;
}): boolean => offer.waiverId !== null || offer.fromAge !== null || offer.toAge !== null;
