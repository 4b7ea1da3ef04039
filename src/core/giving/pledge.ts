import type { CalendarDate } from '#core/time/clock.ts';
import { shiftDate } from '#core/time/dates.ts';

/** The states of a gift every month: `missed` waits for another card, `paused` for whoever gives. */
export const pledgeStates = ['begun', 'running', 'paused', 'missed', 'ended'] as const;
export type PledgeState = (typeof pledgeStates)[number];

/** Days after which an instalment that was declined is tried again, one after the other; after the last it is missed. */
export const retryDays = [3, 7] as const;

/** The day of the month on which instalments of a pledge fall that began on a day: at most the 28th, so that every month has it. */
export const dayOf = (began: CalendarDate): number => Math.min(28, Number(began.slice(8)));

/** The first date after `after` that falls on a day of the month. */
export function nextInstalment(day: number, after: CalendarDate): CalendarDate {
  const [year, month] = [Number(after.slice(0, 4)), Number(after.slice(5, 7))];
  const on = (y: number, m: number): CalendarDate =>
    `${String(y).padStart(4, '0')}-${String(m).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
  const here = on(year, month);
  if (here > after) return here;
  return month === 12 ? on(year + 1, 1) : on(year, month + 1);
}

/**
 * What follows an instalment that was declined for the `tries`th time: the day it is tried again, or null where it is missed. It is
 * never tried again on or after the day of the next one.
 */
export function tryAgainOn(
  instalment: CalendarDate,
  tries: number,
  today: CalendarDate,
): CalendarDate | null {
  const days = retryDays[tries - 1];
  if (days === undefined) return null;
  const on = shiftDate(today, days);
  return on < nextInstalment(Number(instalment.slice(8)), instalment) ? on : null;
}

/** Whether a card runs out before an instalment: it is good to the end of its month. */
export const expiresBefore = (expires: string | null, instalment: CalendarDate): boolean =>
  expires !== null && expires < instalment.slice(0, 7);

/** Month and year as on a card, `08/29`, as `2029-08`; null where it cannot be read. Years are of this century. */
export function readExpiry(typed: string): string | null {
  const match = /^(0[1-9]|1[0-2])\s*\/\s*(\d{2})$/u.exec(typed.trim());
  return match && `20${match[2]}-${match[1]}`;
}
