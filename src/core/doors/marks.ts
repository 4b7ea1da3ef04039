import type { Instant } from '#core/time/clock.ts';

/**
 * Something marked at a door: somebody came, left, or marks of before are taken back. Marks are facts: none is ever changed or deleted, and
 * each has an id of its own, made where it was marked.
 */
export interface DoorMark {
  id: string;
  state: 'arrived' | 'left' | 'expected';
  at: Instant;
  /** Which marks it takes back, by their ids: those that were known where it was made. */
  undoes: readonly string[];
  /** The session at whose door it was made; null at the doors of the event. */
  sessionId: string | null;
}

/** The marks that say where somebody is at an event: coming to a session is coming to the event, leaving it is not leaving the event. */
export const marksOfEvent = (marks: readonly DoorMark[]): DoorMark[] =>
  marks.filter((m) => m.sessionId === null || m.state !== 'left');

/** The marks that say where somebody is at a session. */
export const marksOfSession = (marks: readonly DoorMark[], sessionId: string): DoorMark[] =>
  marks.filter((m) => m.sessionId === sessionId || m.state === 'expected');

/** A time somebody was inside; without an end as long as they are. */
export interface Stay {
  from: Instant;
  until: Instant | null;
}

/** Where somebody is, by everything that was marked about them. */
export interface Presence {
  state: 'expected' | 'arrived' | 'left';
  /** When they first came in. */
  arrivedAt: Instant | null;
  /** When they left, as long as they are away. */
  leftAt: Instant | null;
  stays: Stay[];
  /** The marks that taking back the last arrival takes back: those of the stay they are in. */
  undo: string[];
}

/**
 * Works out where somebody is from a set of marks, in whatever order they are told and however often: marks that were taken back do not
 * count, the others count by their own times. Two arrivals one after the other are one, at the earlier time; leaving before anybody came in is
 * nothing yet, and becomes something once an arrival before it is told. At the moments of `shut`, in order, everybody is out who is still in:
 * the nights between the days of an event.
 */
export function presenceOf(marks: readonly DoorMark[], shut: readonly Instant[] = []): Presence {
  const gone = new Set(marks.flatMap((m) => (m.state === 'expected' ? m.undoes : [])));
  const counting = [...new Map(marks.map((m) => [m.id, m])).values()]
    .filter((m) => m.state !== 'expected' && !gone.has(m.id))
    .sort((a, b) => (a.at === b.at ? (a.id < b.id ? -1 : 1) : a.at < b.at ? -1 : 1));
  const stays: Stay[] = [];
  let undo: string[] = [];
  const nights = [...shut];
  const shutBefore = (at: Instant | null) => {
    while (nights.length && (at === null || nights[0]! <= at)) {
      const night = nights.shift()!;
      const last = stays.at(-1);
      if (last && last.until === null && last.from < night) last.until = night;
    }
  };
  for (const mark of counting) {
    shutBefore(mark.at);
    const last = stays.at(-1);
    const inside = last !== undefined && last.until === null;
    if (mark.state === 'left') {
      if (inside) last.until = mark.at;
    } else if (inside) undo.push(mark.id);
    else {
      stays.push({ from: mark.at, until: null });
      undo = [mark.id];
    }
  }
  shutBefore(null);
  const last = stays.at(-1);
  if (!last) return { state: 'expected', arrivedAt: null, leftAt: null, stays, undo: [] };
  const away = last.until !== null;
  return {
    state: away ? 'left' : 'arrived',
    arrivedAt: stays[0]!.from,
    leftAt: last.until,
    stays,
    undo: away ? [] : undo,
  };
}

/** How many whole minutes somebody was inside between two moments; as long as they are in, until `until`. */
export function minutesInside(stays: readonly Stay[], from: Instant, until: Instant): number {
  const start = Date.parse(from);
  const end = Date.parse(until);
  const inside = stays.reduce(
    (sum, stay) =>
      sum +
      Math.max(
        0,
        Math.min(end, stay.until ? Date.parse(stay.until) : end) - Math.max(start, Date.parse(stay.from)),
      ),
    0,
  );
  return Math.floor(inside / 60_000);
}

/** By how many whole minutes somebody came after the start; 0 where they were on time. */
export const minutesLate = (arrivedAt: Instant, startsAt: Instant): number =>
  Math.max(0, Math.floor((Date.parse(arrivedAt) - Date.parse(startsAt)) / 60_000));

/** The furthest back that what is told later may lie, in milliseconds. */
const longestTold = 36 * 3_600_000;

/**
 * When something was that is told now, by the clock of the server: so long before it was sent as the clock of the device says. That clock
 * may stand a day off, it only has to run. Never in the future, and not long ago.
 */
export function toldAt(now: Instant, { at, sentAt }: { at: Instant; sentAt: Instant }): Instant {
  const ago = Date.parse(sentAt) - Date.parse(at);
  return new Date(Date.parse(now) - Math.min(longestTold, Math.max(0, ago))).toISOString();
}
