import type { AttendanceState } from '#core/doors/attendance.ts';
import { because, type Reason } from '#core/words/reasons.ts';

/** How somebody stands towards an event when it is decided whether they get a step. */
export interface Standing {
  /** Whether the event asks for a waiver, and whether they or theirs still have to sign; null where nobody looked. */
  waiver: { asked: boolean; missing: boolean } | null;
  attendance: AttendanceState | null;
  /** Whether something is still to be paid; null where nobody looked. */
  owes: boolean | null;
}

/** Why somebody does not get a step; null when they do. */
type Condition = (standing: Standing) => Reason | null;

/** What has to hold for steps of a kind. A kind that is not named goes to everybody of its audience. */
const conditions: Readonly<Record<string, Condition>> = {
  waiver: ({ waiver }) =>
    waiver && !waiver.asked
      ? because('no waiver asked')
      : waiver && !waiver.missing
        ? because('nothing to sign')
        : null,
  balance: ({ owes }) => (owes === false ? because('nothing to pay') : null),
  survey: ({ attendance }) => (attendance === 'missed' ? because('did not come') : null),
};

/** Kinds of which one copy for a whole party is not enough: each is asked for themselves. */
const forEachAlone: ReadonlySet<string> = new Set(['survey']);

export const whyNotGot = (kind: string, standing: Standing): Reason | null =>
  conditions[kind]?.(standing) ?? null;
export const coversOthers = (kind: string): boolean => !forEachAlone.has(kind);
/** Kinds that prepare for something: once its moment has passed, nobody has any use for one. */
export const isAhead = (kind: string): boolean => ['reminder', 'waiver', 'shift', 'balance'].includes(kind);
/** Kinds for which it has to be known who still has to sign. */
export const asksForWaivers = (kind: string): boolean => kind === 'waiver';
