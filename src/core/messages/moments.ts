import { type Opening, opensLocal } from '#core/admission/opening.ts';
import { type AttendanceState, came } from '#core/doors/attendance.ts';
import { endOf } from '#core/events/end.ts';
import { balanceDue, type PaidBefore } from '#core/money/balanceDue.ts';
import { type NamedBefore, namesWanted } from '#core/registration/namesUntil.ts';
import type { SurveyAudience, Wave } from '#core/surveys/survey.ts';
import type { Instant } from '#core/time/clock.ts';
import { type Offset, sayOffset } from '#core/time/moment.ts';
import { instantOf } from '#core/time/wallTime.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import { say, words } from '#core/words/spoken.ts';
import { type Audience, audiences, type EventAudience, type YearAudience } from './audiences.ts';

/** The dates of the event that moments hang on. */
export interface EventMoments extends PaidBefore, NamedBefore, Opening {
  endsAt: Instant | null;
  doorsAt: Instant | null;
  registrationClosesAt: Instant | null;
  /** When it was settled who had not come. */
  absencesAt: Instant | null;
}

/** How somebody stands towards an event when it is decided whether they get a line. Null where nobody looked. */
export interface Standing {
  /** Whether a waiver is asked for, and whether they or theirs still have to sign. */
  waiver: { asked: boolean; missing: boolean } | null;
  attendance: AttendanceState | null;
  /** Whether arrivals were noted at all: where nobody did, nobody is known to have stayed away. */
  counted: boolean | null;
  /** Whether something is still to be paid. */
  owes: boolean | null;
  /** How many of their seats have no name yet. */
  unnamed: number | null;
  /** Whether they answered the survey that the moment is about; null where they were not asked yet. */
  answered: boolean | null;
  /** Whether another membership of theirs goes on after this one. */
  renewed: boolean | null;
  /** Whether what they gave went back to them. */
  wentBack: boolean | null;
  /** Whether their monthly gift still stands still for want of a card that works. */
  cardMissing: boolean | null;
}

export const nothingKnown: Standing = {
  waiver: null,
  attendance: null,
  counted: null,
  owes: null,
  unnamed: null,
  answered: null,
  renewed: null,
  wentBack: null,
  cardMissing: null,
};

/** Whether somebody is known not to have come. */
const stayedAway = ({ attendance, counted }: Standing): boolean =>
  attendance === 'missed' && counted !== false;

/** What of somebody's standing is read for a moment, because most do not ask for it. */
export type Looked = 'waivers' | 'survey';

/** A point in time that messages hang on. */
interface MomentRule<Of extends Audience = Audience> {
  /** For whom a line can hang on it; the first where nobody chose. */
  audiences: readonly [Of, ...Of[]];
  /** The instant it is for somebody; null as long as there is none. `anchor` is the person's own. */
  at(event: EventMoments, anchor: Instant | null): Instant | null;
  /** It answers what the person did: whoever came later than it would be due gets it all the same, at any hour. */
  answers?: true;
  /** It prepares for what comes then: afterwards, what hangs on it before is of no use to anybody. */
  ahead?: true;
  /** Each is asked for themselves: the copy to whoever booked is not enough, nor is one for each shift wanted. */
  alone?: true;
  /** The survey it is about: which time they are asked, and whether those are who stayed away. */
  asks?: { wave: Wave; absent?: true };
  /** A reminder: somebody who wants no more of an event’s is not sent it. */
  optional?: true;
  /** Why somebody does not get it; null when they do, or may yet. */
  whyNot?(standing: Standing, event: EventMoments): Reason | null;
  looks?: Looked;
}

const everybody = ['attendees', 'orders', 'guardians', 'waiting', 'crew', 'following'] as const;

const thoseAsked = ['attendees', 'crew', 'guardians'] as const;

/** What is asked once it is over, of each for themselves. */
const afterwards = { at: endOf, alone: true, optional: true } as const;
const notThere = (standing: Standing): Reason | null =>
  stayedAway(standing) ? because('did not come') : null;
const notThereOrAnswered = (standing: Standing): Reason | null =>
  notThere(standing) ?? (standing.answered ? because('answered') : null);
const cameAfterAll = (standing: Standing, { absencesAt }: EventMoments): Reason | null =>
  standing.attendance !== null && came.includes(standing.attendance)
    ? because('came')
    : absencesAt && !stayedAway(standing)
      ? because('nobody counted')
      : null;

/** Every moment there is. A new one is an entry here, and, where it is a person's own, an anchor in their audience. */
const rules = {
  'registration made': { audiences: ['orders'], at: (_, anchor) => anchor, answers: true },
  waitlisted: { audiences: ['waiting'], at: (_, anchor) => anchor, answers: true },
  accepted: { audiences: ['accepted'], at: (_, anchor) => anchor, answers: true },
  'seats offered': { audiences: ['offered'], at: (_, anchor) => anchor, answers: true },
  'seats given up': { audiences: ['given up'], at: (_, anchor) => anchor, answers: true },
  'registration closes': {
    audiences: ['orders', 'attendees', 'guardians', 'waiting', 'crew', 'following'],
    at: (event) => event.registrationClosesAt,
    ahead: true,
    optional: true,
  },
  'registration opens': {
    audiences: ['following'],
    at: (event) => {
      const opens = opensLocal(event);
      return opens && instantOf(opens, event.zone);
    },
    optional: true,
  },
  'guests unnamed': {
    audiences: ['orders'],
    at: (event, anchor) => anchor && namesWanted(event, anchor),
    ahead: true,
    whyNot: ({ unnamed }) => (unnamed === 0 ? because('everybody named') : null),
  },
  'balance due': {
    audiences: ['orders'],
    at: (event, anchor) => anchor && balanceDue(event, anchor),
    ahead: true,
    whyNot: ({ owes }) => (owes === false ? because('nothing to pay') : null),
  },
  'waiver missing': {
    audiences: ['orders'],
    at: (event) => event.startsAt,
    ahead: true,
    looks: 'waivers',
    whyNot: ({ waiver }) =>
      waiver && !waiver.asked
        ? because('no waiver asked')
        : waiver && !waiver.missing
          ? because('nothing to sign')
          : null,
  },
  'session start': { audiences: ['sessions'], at: (_, anchor) => anchor, ahead: true, optional: true },
  'shift start': { audiences: ['crew'], at: (_, anchor) => anchor, ahead: true },
  doors: { audiences: everybody, at: (event) => event.doorsAt, ahead: true, optional: true },
  start: { audiences: everybody, at: (event) => event.startsAt, ahead: true, optional: true },
  end: { audiences: everybody, at: endOf, optional: true },
  absent: { audiences: ['attendees'], ...afterwards, asks: { wave: 1, absent: true }, whyNot: cameAfterAll },
  'absent unanswered': {
    audiences: ['attendees'],
    ...afterwards,
    asks: { wave: 1, absent: true },
    looks: 'survey',
    whyNot: (standing, event) =>
      cameAfterAll(standing, event) ?? (standing.answered ? because('answered') : null),
  },
  survey: { audiences: thoseAsked, ...afterwards, asks: { wave: 1 }, whyNot: notThere },
  'survey unanswered': {
    audiences: thoseAsked,
    ...afterwards,
    asks: { wave: 1 },
    looks: 'survey',
    whyNot: notThereOrAnswered,
  },
  'survey again': { audiences: thoseAsked, ...afterwards, asks: { wave: 2 }, whyNot: notThere },
  'survey again unanswered': {
    audiences: thoseAsked,
    ...afterwards,
    asks: { wave: 2 },
    looks: 'survey',
    whyNot: notThereOrAnswered,
  },
  'membership ends': {
    audiences: ['members'],
    at: (_, anchor) => anchor,
    ahead: true,
    whyNot: ({ renewed }) => (renewed ? because('renewed') : null),
  },
  'gift made': {
    audiences: ['givers'],
    at: (_, anchor) => anchor,
    whyNot: ({ wentBack }) => (wentBack ? because('gift went back') : null),
  },
  'pledge missed': {
    audiences: ['pledgers'],
    at: (_, anchor) => anchor,
    whyNot: ({ cardMissing }) => (cardMissing === false ? because('no card missing') : null),
  },
  'certificate ends': { audiences: ['certified'], at: (_, anchor) => anchor, ahead: true },
} as const satisfies Record<string, MomentRule>;

export type Moment = keyof typeof rules;
type MomentOf<Of extends Audience> = {
  [M in Moment]: (typeof rules)[M]['audiences'][number] extends Of ? M : never;
}[Moment];
/** Moments of an event, and those of the people of the organization, at any time of the year. */
export type EventMoment = MomentOf<EventAudience>;
export type YearMoment = MomentOf<YearAudience>;

const all = Object.keys(rules) as Moment[];
const momentsOf = (owner: 'event' | 'organization') =>
  all.filter((moment) => audiences[rules[moment].audiences[0]].of === owner);
export const moments = momentsOf('event') as [EventMoment, ...EventMoment[]];
export const yearMoments = momentsOf('organization') as [YearMoment, ...YearMoment[]];

export function momentRule(moment: EventMoment): MomentRule<EventAudience>;
export function momentRule(moment: YearMoment): MomentRule<YearAudience>;
export function momentRule(moment: Moment): MomentRule;
export function momentRule(moment: Moment): MomentRule {
  return rules[moment];
}

/** Which survey a line is about; of any other, that of the first time, since every message can lead to it. Null for those who are asked nothing. */
export function surveyOf(
  moment: EventMoment,
  audience: EventAudience,
): { audience: SurveyAudience; wave: Wave } | null {
  const { wave, absent } = momentRule(moment).asks ?? { wave: 1 };
  if (audience === 'attendees') return { audience: absent ? 'absent' : 'attendees', wave };
  return audience === 'crew' || audience === 'guardians' ? { audience, wave } : null;
}

/** As it stands behind “1 day before”. */
export const sayMomentAlone = (moment: Moment): string => say(words().times[moment]);

/** "1 day before the start". */
export const sayMoment = (line: { moment: Moment; offset: Offset }): string =>
  sayOffset(line.offset, sayMomentAlone(line.moment));
