import type { Instant } from '#core/time/clock.ts';
import { merged } from '#core/time/stretches.ts';
import type { DoorDay } from './days.ts';
import { type DoorMark, marksOfEvent, marksOfSession, presenceOf, type Stay } from './marks.ts';

/** A session as far as attendance is counted. */
export interface CountedSession {
  id: string;
  from: Instant;
  until: Instant;
  /** Whether people sign up for it: then it counts for those who did. */
  signUp: boolean;
  /** Whether anybody was marked at its own door; else whoever was in the building was there. */
  kept: boolean;
}

/** What minutes are counted of: the days of the event, or its sessions. */
export const countedOf = ['event', 'sessions'] as const;
export type CountedOf = (typeof countedOf)[number];

/** How long somebody was there, and of how much, in whole minutes. */
export interface Counted {
  minutes: number;
  of: number;
}

type Stretch = [from: number, to: number];

const stretch = (from: Instant, until: Instant): Stretch => [Date.parse(from), Date.parse(until)];

/** What two sets of stretches have in common. */
function common(a: readonly Stretch[], b: readonly Stretch[]): Stretch[] {
  return a.flatMap(([from, to]) =>
    b.flatMap(([f, t]): Stretch[] => {
      const both: Stretch = [Math.max(from, f), Math.min(to, t)];
      return both[0] < both[1] ? [both] : [];
    }),
  );
}

const minutesIn = (stretches: readonly Stretch[]): number =>
  Math.floor(merged(stretches).reduce((sum, [from, to]) => sum + to - from, 0) / 60_000);

const stayed = (stays: readonly Stay[], now: Instant): Stretch[] =>
  stays.map(({ from, until }) => stretch(from, until ?? now));

/**
 * Counts the minutes somebody was there of those there were until `now`. Who was never marked as leaving was there to the end. Sessions at one time
 * count once: nobody is in two. A session that people sign up for counts for those who did, others for everybody.
 */
export function minutesCounted(
  of: CountedOf,
  {
    marks,
    days,
    sessions,
    chosen,
    now,
  }: {
    marks: readonly DoorMark[];
    days: readonly DoorDay[];
    sessions: readonly CountedSession[];
    /** The sessions they signed up for, by id. */
    chosen: ReadonlySet<string>;
    now: Instant;
  },
): Counted {
  const nights = days.flatMap(({ shut }) => shut ?? []);
  const inside = stayed(presenceOf(marksOfEvent(marks), nights).stays, now);
  if (of === 'event') {
    const all = days.map((d) => stretch(d.from, d.until));
    return { minutes: minutesIn(common(inside, all)), of: minutesIn(all) };
  }
  const theirs = sessions.filter((s) => !s.signUp || chosen.has(s.id));
  const there = theirs.flatMap((s) =>
    common(s.kept ? stayed(presenceOf(marksOfSession(marks, s.id), nights).stays, now) : inside, [
      stretch(s.from, s.until),
    ]),
  );
  return { minutes: minutesIn(there), of: minutesIn(theirs.map((s) => stretch(s.from, s.until))) };
}

/** When somebody gets a certificate of attendance: from which share of the minutes, in per cent. */
export interface CertificateRule {
  share: number;
  of: CountedOf;
}

/** Whether somebody was there for as much as the rule asks; of nothing nobody earns one. */
export const earns = ({ minutes, of }: Counted, { share }: Pick<CertificateRule, 'share'>): boolean =>
  of > 0 && minutes * 100 >= share * of;
