import type { CalendarDate } from '#core/time/clock.ts';
import { ageOn } from '#core/time/dates.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';

/** By which answer somebody is asked to sign: one of these, a yes or no as "yes" and "no". */
export interface AnsweredSo {
  questionId: string;
  is: string[];
}

/**
 * Who at an event is asked to sign a waiver. Everything that is said has to hold; within one list, one of them. Nothing said is everybody
 * who has a seat.
 */
export interface WaiverRule {
  id: string;
  waiverId: string;
  /** Whether it is asked of those who have a seat. */
  seats: boolean;
  /** Of these offers; none named is all of them. */
  offerIds: string[];
  /** With a place at one of these sessions; none named asks about none. */
  sessionIds: string[];
  answered: AnsweredSo | null;
  /** Completed years on the day of the event; null is no limit. Whose age is not known is asked. */
  fromAge: number | null;
  toAge: number | null;
  /** Whether it is asked of those who have a shift. */
  crew: boolean;
  /** In these roles; none named is all of them. */
  roles: string[];
}

/** A rule before anything is said: everybody with a seat. */
export const plainRule = {
  seats: true,
  offerIds: [] as string[],
  sessionIds: [] as string[],
  answered: null as AnsweredSo | null,
  fromAge: null as number | null,
  toAge: null as number | null,
  crew: false,
  roles: [] as string[],
};

/** Somebody with a seat, as far as it decides what they sign. */
export interface SeatToSign {
  offerId: string;
  /** Sessions they have a place at. */
  sessionIds: readonly string[];
  /** What they answered, or whoever booked for all, by question: as a condition names it. */
  answers: Readonly<Record<string, readonly string[]>>;
}

const ofAge = (rule: WaiverRule, birthDate: CalendarDate | null, day: CalendarDate): boolean => {
  if (!birthDate) return true;
  const age = ageOn(birthDate, day);
  return (rule.fromAge === null || age >= rule.fromAge) && (rule.toAge === null || age <= rule.toAge);
};

/** True where a rule asks somebody with a seat; `day` is that of the event. */
export const asksSeat = (
  rule: WaiverRule,
  seat: SeatToSign,
  birthDate: CalendarDate | null,
  day: CalendarDate,
): boolean =>
  rule.seats &&
  (!rule.offerIds.length || rule.offerIds.includes(seat.offerId)) &&
  (!rule.sessionIds.length || rule.sessionIds.some((id) => seat.sessionIds.includes(id))) &&
  (!rule.answered ||
    (seat.answers[rule.answered.questionId] ?? []).some((answer) => rule.answered!.is.includes(answer))) &&
  ofAge(rule, birthDate, day);

/** True where a rule asks somebody who has shifts in some roles. */
export const asksCrew = (
  rule: WaiverRule,
  roles: readonly string[],
  birthDate: CalendarDate | null,
  day: CalendarDate,
): boolean =>
  rule.crew &&
  (!rule.roles.length || rule.roles.some((role) => roles.includes(role))) &&
  ofAge(rule, birthDate, day);

/** What rules refer to of a plan. */
interface Referred {
  offers: readonly { id: string }[];
  sessions: readonly { id: string }[];
  questions: readonly { id: string }[];
}

const has = (rows: readonly { id: string }[], id: string): boolean => rows.some((r) => r.id === id);

/**
 * Rules without what is no longer in the plan. One that asked of something that is gone goes with it: else it would be asked of
 * everybody.
 */
export const withoutGone = (rules: readonly WaiverRule[], plan: Referred): WaiverRule[] =>
  rules.flatMap((rule) => {
    const offerIds = rule.offerIds.filter((id) => has(plan.offers, id));
    const sessionIds = rule.sessionIds.filter((id) => has(plan.sessions, id));
    const gone =
      (rule.offerIds.length && !offerIds.length) ||
      (rule.sessionIds.length && !sessionIds.length) ||
      (rule.answered && !has(plan.questions, rule.answered.questionId));
    // What it asks of the crew stays.
    if (!gone) return [{ ...rule, offerIds, sessionIds }];
    return rule.crew ? [{ ...rule, seats: false, offerIds: [], sessionIds: [], answered: null }] : [];
  });

/** What is wrong with the rules of a plan. */
export const problemsWithRules = (rules: readonly WaiverRule[], plan: Referred): Wrong[] =>
  rules.flatMap((rule, at) => {
    const where = `waivers.${at}`;
    return [
      ...(rule.seats || rule.crew ? [] : [wrongAt(`${where}.seats`, 'nobody-asked')]),
      ...(rule.offerIds.every((id) => has(plan.offers, id))
        ? []
        : [wrongAt(`${where}.offerIds`, 'thing-gone', { what: 'ticket' })]),
      ...(rule.sessionIds.every((id) => has(plan.sessions, id))
        ? []
        : [wrongAt(`${where}.sessionIds`, 'thing-gone', { what: 'session' })]),
      ...(!rule.answered || has(plan.questions, rule.answered.questionId)
        ? []
        : [wrongAt(`${where}.answered`, 'thing-gone', { what: 'question' })]),
      ...(rule.answered && !rule.answered.is.length ? [wrongAt(`${where}.answered`, 'answer-needed')] : []),
      ...(rule.fromAge !== null && rule.toAge !== null && rule.fromAge > rule.toAge
        ? [wrongAt(`${where}.toAge`, 'most-below-least')]
        : []),
    ];
  });

/** True at an event where it matters how old everybody with a seat is: a waiver is asked there, or children are admitted. */
export const ageDecides = (event: {
  waivers: readonly WaiverRule[];
  facts: Readonly<Record<string, boolean | number>>;
}): boolean =>
  event.waivers.some((rule) => rule.seats && !rule.offerIds.length) || event.facts.minors === true;

/** True where it matters how old whoever takes an offer is: it is for some ages, or a waiver is asked of those who take it. */
export const offerAsksAge = (
  offer: { id: string; fromAge: number | null; toAge: number | null },
  rules: readonly WaiverRule[],
): boolean =>
  offer.fromAge !== null ||
  offer.toAge !== null ||
  rules.some((rule) => rule.seats && rule.offerIds.includes(offer.id));
