import type { Amount, Currency } from '#core/money/amount.ts';
import type { Params, Said } from '#core/words/filling.ts';
import type { DueCode, NoteCode } from '#core/words/notes.ts';
import { sayProblem } from '#core/words/problems.ts';
import type { Lack } from './readiness.ts';
import type { EventState, Stage } from './states.ts';

/** What the margin and the desk look at. All counts are of now. */
export interface MarginFacts {
  state: EventState;
  currency: Currency;
  /** Days from today to the event's date; null without one. Negative is past. */
  daysToStart: number | null;
  /** True from the end of the event on. */
  over: boolean;
  lacks: Pick<Lack, 'code' | 'params' | 'stops'>[];
  /** Days left until the last day to send; null when it was sent or has no date. */
  daysToSubmit: number | null;
  /** Steps with their approver, and by how many days each is overdue (0 when not). */
  stuck: { step: string; overdueDays: number }[];
  /** By how many days the plan was sent late, while it waits for a coordinator's word about that; else 0. */
  asksLateBy: number;
  sentBack: string | null;
  /** Who proposed it from outside, while nobody decided it. */
  proposedBy: string | null;
  /** Conditions that are not met. */
  conditions: { step: string; what: string; blocks: boolean; daysLeft: number | null }[];
  /** `unknown`: people whose age is not known, for whom a guardian has to sign until it is. */
  waiversMissing: { minors: number; adults: number; unknown: number };
  waiting: {
    parties: number;
    people: number;
    /** Seats that are free; null without a limit. */
    free: number | null;
    firstFit: { name: string; seats: number; orderId: string } | null;
  };
  offersOut: number;
  unfilled: { places: number; shifts: number; firstRole: string | null };
  messagesFailed: number;
  paymentsUnknown: number;
  owedBack: { orders: number; amount: Amount };
  owing: { orders: number; amount: Amount };
  /** Of those, whose day to pay has passed. */
  overdue: { orders: number; amount: Amount };
  /** Assignments of the past that nobody said were served or missed. */
  hoursOpen: number;
  /** People who asked for a shift that is still to come. */
  shiftsAsked: number;
  /** People of the crew whose shift goes on and who are not there, where the crew is ticked off. */
  crewMissing: number;
  /** Shifts for which everybody was asked to step in and nobody does, and people who are asked now. */
  nobodySteps: number;
  stepping: number;
  /** Who would have another shift than theirs. */
  swaps: number;
  /** Who applied to help and waits for a word. */
  applied: number;
  /** Who said that what is kept of their attendance is wrong, and waits for an answer. */
  disputed: number;
  /** Tallies that wait to be looked at. */
  talliesWaiting: number;
  survey: { asked: number; answered: number } | null;
  checksFailing: string[];
}

/** A remark beside an event. Its words are found by its code (`core/words/notes.ts`). */
export interface Note {
  tone: 'stop' | 'need' | 'know';
  /** Sorts notes and desk entries: the higher, the more pressing. */
  urgency: number;
  code: NoteCode;
  params: Params;
  /** By when it has to be settled. */
  due: Said<DueCode>;
  /** The stage it is about: it is shown to those who see that stage. */
  stage: Stage;
  /** Whether something settles it, at its stage. */
  acts: boolean;
}

/** What a treasurer settles, whoever else may. */
export const aboutMoney: readonly NoteCode[] = [
  'to-pay-back',
  'overdue',
  'payments-unknown',
  'figures-disagree',
];

/** From how many days before its date on an event needs its crew. */
const crewFromDays = 100;

/** From how many days before its date on waivers are chased: until then there is time to sign. */
const waiversFromDays = 60;
export const waiversAreChased = (daysToStart: number | null): boolean =>
  daysToStart === null || daysToStart <= waiversFromDays;

/** Nearness adds pressure: the same lack weighs more the day before than a month before. */
const near = (days: number | null): number => (days === null ? 0 : Math.max(0, 30 - Math.max(0, days)));

function dueBy(days: number | null): Said<DueCode> {
  if (days === null) return { code: 'none' };
  if (days < 0) return { code: 'past' };
  if (days === 0) return { code: 'today' };
  return days === 1 ? { code: 'tomorrow' } : { code: 'in-days', params: { days } };
}
const now: Said<DueCode> = { code: 'now' };
const thisWeek: Said<DueCode> = { code: 'this-week' };

/** Everything about an event that somebody should know or settle, most pressing first. */
export function marginOf(f: MarginFacts): Note[] {
  const notes: Note[] = [];
  const soon = near(f.daysToStart);
  const byTheDay = dueBy(f.daysToStart);
  /** Something to settle at a stage. */
  const settle = (
    tone: 'stop' | 'need' | 'know',
    urgency: number,
    code: NoteCode,
    stage: Stage,
    params: Params = {},
    due = byTheDay,
  ) => notes.push({ tone, urgency, code, params, due, stage, acts: true });
  /** Something worth knowing at a stage. */
  const know = (urgency: number, code: NoteCode, stage: Stage, params: Params = {}) =>
    notes.push({ tone: 'know', urgency, code, params, due: byTheDay, stage, acts: false });
  const money = (amount: Amount) => ({ amount, currency: f.currency });
  if (f.state === 'shelved' || f.state === 'called off') return notes;

  if (f.state === 'draft') {
    if (f.proposedBy) settle('need', 38 + soon, 'proposed', 'plan', { name: f.proposedBy }, thisWeek);
    const stops = f.lacks.filter((l) => l.stops);
    if (f.sentBack) settle('stop', 70 + soon, 'sent-back', 'clearance', { words: f.sentBack });
    if (stops.length)
      settle('need', 20 + soon, 'not-ready', 'plan', {
        things: stops.length,
        which: stops.map((l) => sayProblem(l.code, l.params)).join(' '),
      });
    if (f.daysToSubmit !== null) addDeadline(f.daysToSubmit);
  }
  if (f.state === 'in clearance' && f.asksLateBy)
    settle('need', 62 + soon, 'asks-late', 'clearance', { days: f.asksLateBy }, now);
  for (const { step, overdueDays: days } of f.stuck)
    if (days > 0)
      settle(
        'stop',
        // Of two, the one that is later comes first.
        65 + soon + Math.min(9, Math.floor(days / 3)),
        'step-overdue',
        'clearance',
        { step, days },
        { code: 'days-late', params: { days } },
      );
    else know(10, 'with-approver', 'clearance', { step });
  if (f.state === 'cleared' && !f.conditions.some((c) => c.blocks))
    settle('need', 45 + soon, 'cleared-not-open', 'registration', {}, now);
  for (const { step, what, blocks, daysLeft } of f.conditions) {
    const due = daysLeft === null ? byTheDay : dueBy(daysLeft);
    if (daysLeft !== null && daysLeft < 0)
      settle('stop', 58 + soon, 'condition-late', 'clearance', { step, what, days: -daysLeft }, due);
    else if (blocks && f.state !== 'open')
      settle('need', 40 + soon, 'condition-blocks', 'clearance', { step, what }, due);
    else settle('know', 15, 'condition', 'clearance', { step, what }, due);
  }
  if (f.crewMissing) settle('stop', 74, 'crew-missing', 'crew', { people: f.crewMissing }, now);
  if (f.over) addAfter();
  else addBefore();
  if (f.talliesWaiting)
    settle('need', 34, 'tallies-waiting', 'wrap-up', { tallies: f.talliesWaiting }, thisWeek);
  if (f.messagesFailed)
    settle('stop', 75, 'messages-failed', 'messages', { messages: f.messagesFailed }, now);
  if (f.paymentsUnknown)
    settle('stop', 72, 'payments-unknown', 'registration', { payments: f.paymentsUnknown }, now);
  if (f.overdue.orders)
    settle(
      'need',
      48,
      'overdue',
      'registration',
      { sum: money(f.overdue.amount), orders: f.overdue.orders },
      now,
    );
  if (f.owedBack.orders)
    settle(
      'need',
      50,
      'to-pay-back',
      'registration',
      { sum: money(f.owedBack.amount), orders: f.owedBack.orders },
      thisWeek,
    );
  return notes.sort((a, b) => b.urgency - a.urgency);

  function addDeadline(left: number): void {
    if (left < 0)
      settle(
        'stop',
        60 + soon,
        'late-for-clearance',
        'clearance',
        { days: -left },
        { code: 'days-late', params: { days: -left } },
      );
    else if (left === 0) settle('need', 50, 'last-day-to-send', 'clearance', {}, { code: 'today' });
    else if (left <= 10)
      settle(
        'need',
        50 - left,
        'days-to-send',
        'clearance',
        { days: left },
        { code: 'days-left', params: { days: left } },
      );
  }

  function addBefore(): void {
    const { minors, adults, unknown } = f.waiversMissing;
    const chased = waiversAreChased(f.daysToStart);
    if (minors)
      settle(chased ? 'stop' : 'know', 55 + soon, 'children-unsigned', 'registration', { children: minors });
    if (unknown)
      settle(chased ? 'need' : 'know', 40 + soon, 'age-unknown', 'registration', { people: unknown });
    if (adults) {
      const reminded = f.daysToStart !== null && f.daysToStart > 3;
      settle(
        chased ? 'need' : 'know',
        30 + soon,
        reminded ? 'waivers-missing' : 'waivers-missing-soon',
        'registration',
        {
          waivers: adults,
        },
      );
    }
    const { parties, people, free, firstFit } = f.waiting;
    if (firstFit)
      settle(
        'need',
        58 + soon,
        'party-fits',
        'registration',
        { seats: firstFit.seats, name: firstFit.name },
        now,
      );
    else if (parties)
      know(12, free === 0 ? 'waiting-full' : 'waiting-too-few', 'registration', {
        people,
        parties,
        free: free ?? 0,
      });
    if (f.offersOut) know(11, 'offers-out', 'registration', { offers: f.offersOut });
    const { places, shifts, firstRole } = f.unfilled;
    // Dates of a series are made a year ahead: nobody fills their shifts yet.
    const tone = f.daysToStart !== null && f.daysToStart > crewFromDays ? 'know' : 'need';
    if (places) settle(tone, 35 + soon, 'shifts-unfilled', 'crew', { places, shifts, role: firstRole ?? '' });
    if (f.nobodySteps) settle('need', 46, 'nobody-steps-in', 'crew', { shifts: f.nobodySteps }, thisWeek);
    if (f.swaps) settle('need', 40, 'swaps-wished', 'crew', { people: f.swaps }, thisWeek);
    if (f.stepping) know(13, 'stepping-in', 'crew', { people: f.stepping });
    if (f.applied) settle('need', 42, 'applied', 'crew', { people: f.applied }, thisWeek);
    if (f.shiftsAsked) settle('need', 44, 'shifts-asked', 'crew', { people: f.shiftsAsked }, thisWeek);
    if (f.owing.orders && !f.overdue.orders)
      settle('know', 14, 'owed', 'registration', { sum: money(f.owing.amount), orders: f.owing.orders });
    for (const lack of f.lacks.filter((l) => !l.stops))
      know(5, 'worth-knowing', 'plan', { words: sayProblem(lack.code, lack.params) });
  }

  function addAfter(): void {
    if (f.hoursOpen) settle('need', 38, 'hours-open', 'crew', { shifts: f.hoursOpen }, thisWeek);
    if (f.disputed) settle('need', 36, 'attendance-disputed', 'doors', { people: f.disputed }, thisWeek);
    for (const check of f.checksFailing) settle('stop', 68, 'figures-disagree', 'wrap-up', { check }, now);
    if (f.survey?.asked) settle('know', 8, 'survey-answered', 'wrap-up', { ...f.survey });
    if (f.state !== 'wrapped' && !f.hoursOpen) settle('need', 25, 'not-wrapped', 'wrap-up', {}, thisWeek);
  }
}
