import type { Call } from '#contract/applying.ts';
import type { ApplicationState, CallAsk, Said } from '#core/crew/applying.ts';
import type { DepositBack } from '#core/crew/deposit.ts';
import { sayShortDate, sayWeekday } from '#core/time/say.ts';
import { phrase } from '#web/words/phrase.ts';

export const askWords: Readonly<Record<CallAsk, string>> = {
  availability: phrase('applying.asks-availability'),
  skills: phrase('applying.asks-skills'),
  limits: phrase('applying.asks-limits'),
  company: phrase('applying.asks-company'),
  shirt: phrase('applying.asks-shirt'),
  'birth date': phrase('applying.asks-birth date'),
  experience: phrase('applying.asks-experience'),
};

export const stateViews: Readonly<Record<ApplicationState, string>> = {
  new: phrase('applying.view-new'),
  accepted: phrase('applying.view-accepted'),
  resting: phrase('applying.view-resting'),
  declined: phrase('applying.view-declined'),
  invited: phrase('applying.view-invited'),
};

const weightWords: Readonly<Record<number, string>> = {
  1: phrase('applying.weight1'),
  2: phrase('applying.weight2'),
  3: phrase('applying.weight3'),
};

/** What a call is for: its event, its days, or nothing in particular. */
export const sayFor = (call: Pick<Call, 'event' | 'fromOn' | 'untilOn'>): string =>
  call.event ??
  (call.fromOn && call.untilOn
    ? phrase('applying.season', {
        from: sayShortDate(call.fromOn),
        until: `${sayShortDate(call.untilOn)} ${call.untilOn.slice(0, 4)}`,
      })
    : phrase('applying.standing'));

/** Roles somebody would like, those they want most first: "Tea (above all), Gate". */
export const sayWishes = (said: Said, roleName: (id: string) => string): string =>
  [...said.wishes]
    .sort((a, b) => b.weight - a.weight)
    .map(({ roleId, weight }) => `${roleName(roleId)} (${weightWords[weight]})`)
    .join(', ');

/** 4 January 2026 is a Sunday. */
const dateOfWeekday = (weekday: number): string => `2026-01-${String(4 + weekday).padStart(2, '0')}`;

/** When somebody can be there, a line a day. */
export function sayThere(available: NonNullable<Said['available']>): string[] {
  const lines = new Map<string, string[]>();
  const add = (day: string, from: string, to: string) =>
    lines.set(day, [...(lines.get(day) ?? []), `${from}–${to}`]);
  if (available.kind === 'dates')
    for (const s of available.stretches) add(sayShortDate(s.date, true), s.from, s.to);
  else for (const s of available.stretches) add(sayWeekday(dateOfWeekday(s.weekday)), s.from, s.to);
  return [...lines].map(([day, times]) => `${day} ${times.join(', ')}`);
}

/** How much somebody wants to do at most. */
export const sayLimits = ({ shifts, hours, inARow, latest }: Said['limits']): string =>
  [
    shifts !== null && phrase('applying.limitShifts', { n: shifts }),
    hours !== null && phrase('applying.limitHours', { n: hours }),
    inARow !== null && phrase('applying.limitInARow', { n: inARow }),
    latest !== null && phrase('applying.limitLatest', { at: latest }),
  ]
    .filter(Boolean)
    .join(', ');

/** By which rule a deposit goes back. */
export const backWords: Readonly<Record<DepositBack, string>> = {
  every: phrase('applying.back-every'),
  any: phrase('applying.back-any'),
  share: phrase('applying.back-share'),
};
