import type { WhatIf } from '#contract/changes.ts';
import { type Aspect, aspectsOf } from '#core/changes/aspects.ts';
import type { PlanField } from '#core/events/parts.ts';
import { type PhraseKey, phrase } from '#web/words/phrase.ts';

type Told = WhatIf['letters'][number]['to'];

const aspectWords = {
  time: 'changes.aspectTime',
  place: 'changes.aspectPlace',
  capacity: 'changes.aspectCapacity',
  price: 'changes.aspectPrice',
  visibility: 'changes.aspectVisibility',
} as const satisfies Record<Aspect, PhraseKey>;

/** What a change is about, in few words. */
export const sayAspects = (fields: readonly PlanField[]): string =>
  aspectsOf(fields)
    .map((aspect) => phrase(aspectWords[aspect]))
    .join(', ');

/** How those are called who are told of a change. */
export const whoWords = {
  registrants: 'changes.whoRegistrants',
  losing: 'changes.whoLosing',
  waitlist: 'changes.whoWaitlist',
  crew: 'changes.whoCrew',
  speakers: 'changes.whoSpeakers',
  approvers: 'changes.whoApprovers',
} as const satisfies Record<Told, PhraseKey>;

export const tellWords = {
  registrants: 'changes.tellRegistrants',
  losing: 'changes.tellLosing',
  waitlist: 'changes.tellWaitlist',
  crew: 'changes.tellCrew',
  speakers: 'changes.tellSpeakers',
  approvers: 'changes.tellApprovers',
} as const satisfies Record<Told, PhraseKey>;

export const oddsWords = {
  place: 'changes.oddsPlace',
  lead: 'changes.oddsLead',
  audience: 'changes.oddsAudience',
  diary: 'changes.oddsDiary',
  holiday: 'changes.oddsHoliday',
  session: 'changes.oddsSession',
} as const satisfies Record<WhatIf['odds'][number]['of'], PhraseKey>;

export const hereWords = {
  seat: 'changes.bothSeat',
  shift: 'changes.bothShift',
  session: 'changes.bothSession',
} as const;

export const thereWords = {
  seat: 'changes.thereSeat',
  shift: 'changes.thereShift',
  session: 'changes.thereSession',
} as const;

/** How many people are told, as it stands. */
export const tellsNow = (letters: WhatIf['letters'] = []): number =>
  letters.filter((l) => l.told).reduce((sum, l) => sum + l.count, 0);
