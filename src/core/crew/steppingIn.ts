import { isQuiet, notBefore, type QuietHours } from '#core/messages/hours.ts';
import { type Instant, later, plusMinutes, type Zone } from '#core/time/clock.ts';
import { type Keeping, keptUntil } from '#core/time/keeping.ts';
import { wallOf } from '#core/time/wallTime.ts';

/** What became of somebody who was asked to step in, in the order it can. */
export const askStates = ['asked', 'took it', 'said no', 'lapsed', 'not needed'] as const;
export type AskState = (typeof askStates)[number];

/** How a search for somebody who steps in ended. */
export const searchEnds = ['filled', 'nobody left', 'stopped', 'too late'] as const;
export type SearchEnd = (typeof searchEnds)[number];

/** How long a place is kept for whoever is asked. */
const keeping: Keeping = { longest: 12 * 60, shortest: 30, lastCall: 15 };

const waking = (at: Instant, quiet: QuietHours | null, zone: Zone): Instant =>
  notBefore(at, { quiet, workingDays: false, holidays: [] }, zone);

/** When somebody is written to who is asked now: not at night, unless it would be too late in the morning. */
export function askedAt(now: Instant, startsAt: Instant, quiet: QuietHours | null, zone: Zone): Instant {
  const morning = waking(now, quiet, zone);
  return morning < plusMinutes(startsAt, -keeping.lastCall) ? morning : now;
}

/**
 * Until when whoever is asked now can say yes; null where it is too late to ask anybody. The hours in which nobody is written to do
 * not count: who is asked at night has from the morning on, and no answer is due at night, unless the shift itself begins before.
 */
export function answerUntil(
  now: Instant,
  startsAt: Instant,
  quiet: QuietHours | null,
  zone: Zone,
): Instant | null {
  if (now >= plusMinutes(startsAt, -keeping.lastCall)) return null;
  const heard = askedAt(now, startsAt, quiet, zone);
  const until = keptUntil(heard, startsAt, keeping);
  const night = (when: Instant) => quiet !== null && isQuiet(wallOf(when, zone).slice(11), quiet);
  if (night(heard) || !night(until)) return until;
  return later(
    until,
    keptUntil(waking(until, quiet, zone), startsAt, { ...keeping, longest: keeping.shortest }),
  );
}

/** Somebody who could be asked to step in, as far as it decides whether they are. */
export interface Askable {
  contactId: string;
  /** Nothing speaks against them. */
  free: boolean;
  /** They can be written to. */
  reached: boolean;
  /** They were asked within this search, said no before, or gave the shift back themselves. */
  asked: boolean;
}

/**
 * Whom to ask now: as many as there are places that nobody has and nobody is asked for. Those who wait for the shift come first, in the
 * order they came; then the others, the best first. Whoever something speaks against is passed over, and keeps their place in line.
 */
export function whomToAsk(
  places: number,
  waiting: readonly Askable[],
  others: readonly Askable[],
): { contactId: string; waited: boolean }[] {
  const inLine = new Set(waiting.map((w) => w.contactId));
  return [
    ...waiting.map((one) => ({ one, waited: true })),
    ...others.filter((o) => !inLine.has(o.contactId)).map((one) => ({ one, waited: false })),
  ]
    .filter(({ one }) => one.free && one.reached && !one.asked)
    .slice(0, Math.max(0, places))
    .map(({ one, waited }) => ({ contactId: one.contactId, waited }));
}
