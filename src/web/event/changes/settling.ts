import type { SettledTogether, Settling, WhatIf } from '#contract/changes.ts';
import type { EventPlan } from '#contract/plan.ts';
import { sessionsAlong } from '#core/agenda/session.ts';
import { putAt } from '#core/events/dated.ts';
import type { Move } from '#core/events/moves.ts';
import { minuteOf } from '#core/time/dates.ts';

type To = WhatIf['letters'][number]['to'];
interface Letter {
  /** As somebody ticked it; null as it is by itself. */
  told: boolean | null;
  why: string;
  /** Whether it is written differently from the draft. */
  own: boolean;
  subject: { en: string; fr: string };
  body: { en: string; fr: string };
}

/** What is decided about the consequences of a change, as it stands in the form. */
export interface Settled {
  words: string;
  letters: Record<To, Letter>;
  takeOff: string[];
  /** Of the team of the event, by their place on it. */
  offTeam: string[];
  leadEmail: string;
  toWaitlist: string[];
  money: Settling['money'];
  fundId: string;
  toEventId: string;
  /** When registration closes in place of a time that has passed: a date and a time of day. */
  closes: string;
  closesAt: string;
  /** Another start, where what was typed is at odds with something: a date and a time of day. */
  starts: string;
  startsAt: string;
  /** Whether sessions move along with the time of day at which it starts. */
  along: boolean;
  /** Sessions that are taken out of the timetable. */
  offAgenda: string[];
  /** What becomes of dates that a series no longer has, by event. */
  decisions: Record<string, 'move' | 'keep' | 'call off'>;
}

const asDrafted = (): Letter => ({
  told: null,
  why: '',
  own: false,
  subject: { en: '', fr: '' },
  body: { en: '', fr: '' },
});

export const nothingSettled = (callsOff: boolean): Settled => ({
  words: '',
  letters: {
    registrants: asDrafted(),
    losing: asDrafted(),
    waitlist: asDrafted(),
    crew: asDrafted(),
    speakers: asDrafted(),
    approvers: asDrafted(),
  },
  takeOff: [],
  offTeam: [],
  leadEmail: '',
  toWaitlist: [],
  money: callsOff ? 'return' : 'by hand',
  fundId: '',
  toEventId: '',
  closes: '',
  closesAt: '23:59',
  starts: '',
  startsAt: '',
  along: false,
  offAgenda: [],
  decisions: {},
});

/** Whether something was decided about what a change is at odds with. */
export const settlesOdds = (s: Settled): boolean =>
  s.offTeam.length + s.offAgenda.length > 0 || s.along || s.starts !== '';

/** What is sent of it: a letter only where it is not as it would be by itself. */
export const settleOf = (s: Settled): Settling => ({
  words: s.words,
  letters: (Object.entries(s.letters) as [To, Letter][]).flatMap(([to, { told, why, own, subject, body }]) =>
    told === null && !own ? [] : [{ to, told: told ?? true, why, ...(own ? { subject, body } : {}) }],
  ),
  takeOff: s.takeOff,
  offTeam: s.offTeam,
  leadEmail: s.leadEmail,
  toWaitlist: s.toWaitlist,
  money: s.money,
  fundId: s.fundId || null,
  toEventId: s.toEventId || null,
});

/** What is sent of it with a change of several events. */
export const settledTogether = (s: Settled): SettledTogether => {
  const { words, letters, money, fundId } = settleOf(s);
  return { words, letters, money, fundId };
};

/** The path of a field in the form, by its path in what is sent. */
export function fieldOfSettled(path: string, s: Settled): string {
  const letter = /^settle\.letters\.(\d+)\.(.+)$/u.exec(path);
  return letter
    ? `letters.${settleOf(s).letters[Number(letter[1])]!.to}.${letter[2]}`
    : path.replace('settle.', '');
}

/** What is being done: a move, or a change of the plan with the version it was written on. */
export type Doing = { move: Move } | { change: Partial<EventPlan>; version: number };

/** By how many minutes of the clock a change of the plan starts earlier or later in the day. */
export const laterBy = (was: EventPlan, is: Partial<EventPlan>): number =>
  was.startsLocal && is.startsLocal
    ? minuteOf(is.startsLocal) - minuteOf(`${is.startsLocal.slice(0, 10)}${was.startsLocal.slice(10)}`)
    : 0;

/** The change as it is sent, with what was settled about it: another start, sessions, another end of registration. */
export function changeOf(doing: Doing, s: Settled, plan: EventPlan): Partial<EventPlan> {
  if ('move' in doing) return {};
  const { startsLocal, endsLocal, doorsLocal, registrationClosesLocal } = { ...plan, ...doing.change };
  const change = {
    ...doing.change,
    ...(s.starts && s.startsAt && startsLocal
      ? putAt({ startsLocal, endsLocal, doorsLocal, registrationClosesLocal }, `${s.starts}T${s.startsAt}`)
      : {}),
    ...(s.closes && s.closesAt ? { registrationClosesLocal: `${s.closes}T${s.closesAt}` } : {}),
  };
  if (!s.along && !s.offAgenda.length) return change;
  const sessions = change.sessions ?? plan.sessions;
  return {
    ...change,
    sessions: (s.along ? sessionsAlong(sessions, laterBy(plan, change)) : sessions).map((session) =>
      s.offAgenda.includes(session.id)
        ? { ...session, day: null, begins: null, ends: null, roomId: null }
        : session,
    ),
  };
}
