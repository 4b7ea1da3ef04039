import type { WallTime } from '#core/time/clock.ts';
import type { ReplyRule } from './invitation.ts';

/**
 * How people come to an event: everybody; members of the organization, or of some of its units; whoever has an access code; whoever
 * is on one of its guest lists; whoever is invited.
 */
export const wayKinds = ['everyone', 'members', 'units', 'code', 'list', 'invited'] as const;
export type WayKind = (typeof wayKinds)[number];

/** One way in, with the time in which it is open. */
export interface Way {
  kind: WayKind;
  /** Of the way of units: which. */
  unitIds: readonly string[];
  /** When it opens and closes, by the clock where the event is; null: with registration. */
  opensLocal: WallTime | null;
  closesLocal: WallTime | null;
}

/** Who may register. */
export interface Admission {
  ways: readonly Way[];
  /** Nobody has to: coming counts. */
  noReply: boolean;
  /** Whether the organizer accepts people, one by one: until then they have asked, and hold nothing. */
  accepts: boolean;
  /** What those invited are asked. */
  reply: ReplyRule;
}

/** Everybody, as long as registration is open. */
export const everybody: Admission = {
  ways: [{ kind: 'everyone', unitIds: [], opensLocal: null, closesLocal: null }],
  noReply: false,
  accepts: false,
  reply: 'yes or no',
};

/** A guest list somebody is on. */
export interface OnList {
  /** Whether their seat costs nothing. */
  free: boolean;
  /** Whether they get a seat also where there is none left. */
  overCapacity: boolean;
}

/** What is known of whoever wants to register. Nothing is, but for a code, before they are signed in. */
export interface Applicant {
  /** A member of the organization on the day of the event. */
  member: boolean;
  /** Units they are in on that day. */
  units: ReadonlySet<string>;
  lists: readonly OnList[];
  invited: boolean;
  /** Whether they entered a code that opens. */
  code: boolean;
}

/** Why a way is not theirs, or not now. */
export interface Refusal {
  kind: WayKind;
  /** `not theirs`: it is for others. `not yet`, `over`: it is theirs at another time. */
  why: 'not theirs' | 'not yet' | 'over';
  unitIds: readonly string[];
  opensLocal: WallTime | null;
}

export type Admitted = { in: OnList } | { refusals: Refusal[] };

const isTheirs = (way: Way, who: Applicant): boolean => {
  switch (way.kind) {
    case 'everyone':
      return true;
    case 'members':
      return who.member;
    case 'units':
      return way.unitIds.some((id) => who.units.has(id));
    case 'code':
      return who.code;
    case 'list':
      return who.lists.length > 0;
    case 'invited':
      return who.invited;
  }
};

/**
 * Whether somebody may register now: by any way that is theirs and open. A guest list gives what it gives by whichever way they come.
 * Else every way there is, each with why it is not theirs or not now.
 */
export function admit(admission: Admission, who: Applicant, nowLocal: WallTime): Admitted {
  const refusals: Refusal[] = [];
  for (const way of admission.ways) {
    const why = !isTheirs(way, who)
      ? 'not theirs'
      : way.opensLocal && nowLocal < way.opensLocal
        ? 'not yet'
        : way.closesLocal && nowLocal >= way.closesLocal
          ? 'over'
          : null;
    if (!why)
      return {
        in: {
          free: who.lists.some((l) => l.free),
          overCapacity: who.lists.some((l) => l.overCapacity),
        },
      };
    refusals.push({ kind: way.kind, why, unitIds: way.unitIds, opensLocal: way.opensLocal });
  }
  return { refusals };
}

/** Whether signing in could make one of the ways somebody's. */
export const mayHelpToSignIn = (admission: Admission): boolean =>
  admission.ways.some((w) => w.kind !== 'everyone' && w.kind !== 'code');
