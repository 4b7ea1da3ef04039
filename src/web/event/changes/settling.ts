import type { Settling, WhatIf } from '#contract/changes.ts';
import type { EventPlan } from '#contract/events.ts';
import type { Move } from '#core/events/moves.ts';

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
  toWaitlist: string[];
  money: Settling['money'];
  fundId: string;
  toEventId: string;
  /** When registration closes in place of a time that has passed: a date and a time of day. */
  closes: string;
  closesAt: string;
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
  toWaitlist: [],
  money: callsOff ? 'return' : 'by hand',
  fundId: '',
  toEventId: '',
  closes: '',
  closesAt: '23:59',
});

/** What is sent of it: a letter only where it is not as it would be by itself. */
export const settleOf = (s: Settled): Settling => ({
  words: s.words,
  letters: (Object.entries(s.letters) as [To, Letter][]).flatMap(([to, { told, why, own, subject, body }]) =>
    told === null && !own ? [] : [{ to, told: told ?? true, why, ...(own ? { subject, body } : {}) }],
  ),
  takeOff: s.takeOff,
  toWaitlist: s.toWaitlist,
  money: s.money,
  fundId: s.fundId || null,
  toEventId: s.toEventId || null,
});

/** What is being done: a move, or a change of the plan with the version it was written on. */
export type Doing = { move: Move } | { change: Partial<EventPlan>; version: number };

/** The change as it is sent, with another end of registration where that was settled. */
export const changeOf = (doing: Doing, s: Settled): Partial<EventPlan> =>
  'move' in doing
    ? {}
    : {
        ...doing.change,
        ...(s.closes && s.closesAt ? { registrationClosesLocal: `${s.closes}T${s.closesAt}` } : {}),
      };
