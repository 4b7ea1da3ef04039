import type { Instant } from '#core/time/clock.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import type { DoorDay } from './days.ts';
import { type DoorMark, presenceOf, type Stay } from './marks.ts';

/** The most times somebody comes and goes that are entered by hand. */
export const mostStays = 20;

/** How far before the start of the first day and after the end of the last somebody can have been there, in milliseconds. */
const around = 12 * 3_600_000;

/**
 * What is wrong with the times at which somebody is said to have been there: they are in order, none before or after the event or still to come, and
 * only the last may have no end.
 */
export function problemsWithStays(stays: readonly Stay[], days: readonly DoorDay[], now: Instant): Wrong[] {
  const [first, last] = [days[0], days.at(-1)];
  return stays.flatMap(({ from, until }, at) => {
    const problems: Wrong[] = [];
    const before = stays[at - 1];
    if (from > now) problems.push(wrongAt(`stays.${at}.from`, 'time-to-come'));
    else if (
      !first ||
      Date.parse(from) < Date.parse(first.from) - around ||
      Date.parse(from) > Date.parse(last!.until) + around
    )
      problems.push(wrongAt(`stays.${at}.from`, 'not-at-the-event'));
    if (before && (before.until === null || before.until > from))
      problems.push(wrongAt(`stays.${at}.from`, 'stays-overlap'));
    if (until !== null && until <= from) problems.push(wrongAt(`stays.${at}.until`, 'left-before'));
    else if (until !== null && until > now) problems.push(wrongAt(`stays.${at}.until`, 'time-to-come'));
    return problems;
  });
}

/**
 * The marks that make somebody’s attendance what it is said to be: what counted at this door is taken back, and each stay is marked anew. Nothing is
 * taken off the record: what was marked before is read beside what corrects it.
 */
export function correcting(
  marks: readonly DoorMark[],
  sessionId: string | null,
  stays: readonly Stay[],
  now: Instant,
  newId: () => string,
): DoorMark[] {
  const gone = new Set(marks.flatMap((m) => (m.state === 'expected' ? m.undoes : [])));
  const counting = marks.filter((m) => {
    if (m.state === 'expected' || gone.has(m.id)) return false;
    // Nobody was at a session of an event they never came to.
    return m.sessionId === sessionId || (sessionId === null && stays.length === 0);
  });
  return [
    ...(counting.length
      ? [{ id: newId(), state: 'expected' as const, at: now, undoes: counting.map((m) => m.id), sessionId }]
      : []),
    ...stays.flatMap(({ from, until }): DoorMark[] => [
      { id: newId(), state: 'arrived', at: from, undoes: [], sessionId },
      ...(until ? [{ id: newId(), state: 'left' as const, at: until, undoes: [], sessionId }] : []),
    ]),
  ];
}

/** The arrivals at sessions that lie outside the times somebody is said to have been at the event: those have to be corrected first. */
export function againstSessions(marks: readonly DoorMark[], stays: readonly Stay[]): DoorMark[] {
  const gone = new Set(marks.flatMap((m) => (m.state === 'expected' ? m.undoes : [])));
  return marks.filter(
    (m) =>
      m.sessionId !== null &&
      m.state === 'arrived' &&
      !gone.has(m.id) &&
      // Who comes to a session as they leave came back.
      !stays.some((s) => s.from <= m.at && (s.until === null || m.at < s.until)),
  );
}

/** True where two sets of stays say the same. */
export const sameStays = (marks: readonly DoorMark[], stays: readonly Stay[]): boolean =>
  JSON.stringify(presenceOf(marks).stays) === JSON.stringify(stays);
