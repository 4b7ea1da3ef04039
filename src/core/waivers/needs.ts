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

/** What was signed for somebody of one waiver, as far as it holds where they take part. */
export interface Signed {
  relation: 'self' | 'guardian';
  /** The newest version that was signed so. */
  version: number;
  /** How many different people signed so. */
  signers: number;
}

/** A waiver that is asked of somebody, with what was signed of it for them. */
export interface AskedWaiver {
  id: string;
  audience: WaiverAudience;
  /** The oldest version that still counts. */
  from: number;
  /** How many guardians sign for a child. */
  guardians: number;
  signed: readonly Signed[];
}

/** How it stands with all that is asked of one participant. */
export interface Signing {
  /** Of all of them together: who still has to sign something, else whether anything was signed. */
  standing: WaiverStanding;
  /** The waivers that are still to be signed, in the order they are asked. */
  toSign: string[];
  /** Of these, those that one guardian has signed and another has not. */
  partly: string[];
  /** Those that are signed. */
  signed: string[];
}

/** What is asked of somebody where no waiver is. */
export const nothingToSign: Signing = { standing: 'not asked', toSign: [], partly: [], signed: [] };

/**
 * How it stands with the waivers asked of a participant. Who signs hangs on age alone, so it is the same for all that are open.
 */
export function signingOf(
  asked: readonly AskedWaiver[],
  p: Participant,
  eventDate: CalendarDate,
  ageOfMajority: number,
): Signing {
  const age = ageStanding(p, eventDate, ageOfMajority);
  const each = asked.map((w) => {
    const enough = (s: Signed) => s.relation === 'self' || s.signers >= w.guardians;
    // Signed for another day, somebody may be of another age on this one.
    const counting = w.signed.filter((s) => s.version >= w.from && covers(s.relation, age));
    return {
      id: w.id,
      partly: counting.length > 0,
      standing: counting.some(enough) ? ('signed' as const) : needOf(w.audience, p, eventDate, ageOfMajority),
    };
  });
  const open = each.filter((w) => w.standing === 'self' || w.standing === 'guardian');
  const signed = each.filter((w) => w.standing === 'signed');
  return {
    standing: (open[0] ?? signed[0])?.standing ?? 'not asked',
    toSign: open.map((w) => w.id),
    partly: open.filter((w) => w.partly).map((w) => w.id),
    signed: signed.map((w) => w.id),
  };
}

/**
 * True when a signature still counts for somebody of that age: a child cannot have signed for itself, and whoever has come of age is
 * no longer signed for.
 */
export const covers = (signedBy: 'self' | 'guardian', age: ReturnType<typeof ageStanding>): boolean =>
  !(signedBy === 'self' && age === 'minor') && !(signedBy === 'guardian' && age === 'adult');
