import { isGone, type QuietReason } from '#core/contacts/quiet.ts';
import { conflict, gapBetween, minutesAt } from '#core/roster/ground.ts';
import type { CalendarDate, Instant, WallTime } from '#core/time/clock.ts';
import { ageOn } from '#core/time/dates.ts';
import { sayShortDate } from '#core/time/say.ts';
import type { Params } from '#core/words/filling.ts';
import { type AgainstKind, againstKinds } from './againstKinds.ts';
import { minutesApart, type Spot } from './apart.ts';
import type { ApplicationState } from './applying.ts';
import { type Availability, isThere } from './availability.ts';
import { beyond, type Limits, type Load } from './limits.ts';
import { hoursOf } from './shift.ts';

/** One thing that speaks against it, as a code with what its words need. */
export interface Against {
  kind: AgainstKind;
  params: Params;
  /** The organization lets nobody decide otherwise. */
  absolute: boolean;
}

/** A stretch of time somebody stands somewhere. */
export interface Stint {
  shiftId: string;
  label: string;
  startsAt: Instant;
  endsAt: Instant;
  spot: Spot;
}

/** A skill somebody has, as far as it is known. */
export interface HeldSkill {
  skillId: string;
  /** The last day it holds; null: always. */
  until: CalendarDate | null;
  /** Somebody of the team has seen it. */
  seen: boolean;
}

/** Somebody, as far as it decides whether they can be on a shift. */
export interface Candidate {
  /** Where they stand already. */
  stints: readonly Stint[];
  /** An event where they have a seat at that time. */
  seatAt: string | null;
  birthDate: CalendarDate | null;
  skills: readonly HeldSkill[];
  quiet: QuietReason | null;
  /** What they said in their application, and what they have already of what it is about; null where they made none. */
  applied: Applied | null;
}

/** What of somebody's application decides whether they can be on a shift. */
export interface Applied {
  state: ApplicationState;
  available: Availability | null;
  limits: Limits;
  load: Load;
  /** They were asked for a deposit, and it has not come. */
  owesDeposit: boolean;
}

/** What a role asks. */
export interface RoleAsks {
  name: string;
  fromAge: number | null;
  needs: readonly { id: string; name: string; certificate: boolean }[];
}

export interface CrewRules {
  /** Hours of rest once in 24 hours. */
  restHours: number;
  /** Minutes from one place of an event to another. */
  placeMinutes: number;
  neverOverridden: readonly AgainstKind[];
}

/**
 * Whether somebody of the team looks at it before a stranger has a shift of a role. It hangs on the role alone: by whether somebody is on at
 * once, whoever knows a name and an address could else find out what that person can do, or how old they are.
 */
export const isDecidedFirst = (
  role: Pick<RoleAsks, 'fromAge'> & { anybody: boolean; needs: readonly unknown[] },
) => !role.anybody || role.needs.length > 0 || role.fromAge !== null;

/** A shift somebody is to be put on. */
export interface WantedShift extends Stint {
  /** By the clock where it is. */
  startsLocal: WallTime;
  endsLocal: WallTime;
}

/** A shift as what somebody is to be put on. */
export const wantedOf = ({
  id,
  role,
  startsAt,
  endsAt,
  startsLocal,
  endsLocal,
  spot,
}: Omit<WantedShift, 'shiftId' | 'label'> & { id: string; role: string }): WantedShift => ({
  shiftId: id,
  label: role,
  startsAt,
  endsAt,
  startsLocal,
  endsLocal,
  spot,
});

const between = (at: { startsAt: Instant; endsAt: Instant }) => ({
  start: minutesAt(at.startsAt),
  end: minutesAt(at.endsAt),
});

/**
 * Everything that speaks against putting somebody on a shift, the weightiest first. Shifts that touch do not overlap. Rest is asked
 * once in 24 hours, as rosters ask it; from one place to another they need time. A certificate has to hold on the last day of the shift; one that nobody has seen is said so.
 */
export function againstOf(shift: WantedShift, role: RoleAsks, who: Candidate, rules: CrewRules): Against[] {
  const found: Against[] = [];
  const say = (kind: AgainstKind, params: Params = {}) =>
    found.push({ kind, params, absolute: kind === 'gone' || rules.neverOverridden.includes(kind) });
  if (isGone(who.quiet)) say('gone', { why: who.quiet! });
  const wanted = between(shift);
  for (const other of who.stints) {
    if (other.shiftId === shift.shiftId) continue;
    const gap = gapBetween(wanted, between(other));
    if (gap < 0) say('overlap', { label: other.label });
    else if (conflict(wanted, between(other), { restHours: rules.restHours, daily: true }))
      say('short rest', { label: other.label, hours: Math.floor(gap / 60) });
    else {
      const needed = minutesApart(shift.spot, other.spot, rules.placeMinutes);
      if (gap < needed) say('too far', { label: other.label, minutes: gap, needed });
    }
  }
  if (who.seatAt) say('own seat', { event: who.seatAt });
  if (who.applied) {
    const { state, available, limits, load, owesDeposit } = who.applied;
    if (state === 'declined' || state === 'resting') say(state);
    if (owesDeposit) say('no deposit');
    if (!isThere(available, shift)) say('not available');
    const hours = hoursOf(shift.startsAt, shift.endsAt);
    for (const { kind, params } of beyond(limits, load, { ...shift, hours })) say(kind, params);
  }
  if (role.fromAge !== null) {
    const age = who.birthDate === null ? null : ageOn(who.birthDate, shift.startsLocal.slice(0, 10));
    if (age === null) say('age unknown', { role: role.name, from: role.fromAge });
    else if (age < role.fromAge) say('age', { age, role: role.name, from: role.fromAge });
  }
  for (const need of role.needs) {
    const held = who.skills.find((s) => s.skillId === need.id);
    if (!held) say('skill', { skill: need.name });
    else if (held.until && held.until < shift.endsLocal.slice(0, 10))
      say('expired', { skill: need.name, day: sayShortDate(held.until) });
    else if (need.certificate && !held.seen) say('unseen', { skill: need.name });
  }
  if (who.quiet && !isGone(who.quiet)) say('quiet', { why: who.quiet });
  const weight = (a: Against) => againstKinds.indexOf(a.kind);
  return found.sort((a, b) => weight(a) - weight(b));
}
