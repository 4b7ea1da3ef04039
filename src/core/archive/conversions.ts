import { beyondNormal, z975 } from '#core/statistics/distributions.ts';
import { type Estimate, shareOf } from '#core/statistics/intervals.ts';
import type { CalendarDate } from '#core/time/clock.ts';
import { dayNumber } from '#core/time/dayRuns.ts';
import { type Archive, type Moments, seatState, type Visits } from './archive.ts';

/** What somebody may do after an event. */
export const conversions = ['gave', 'served', 'came again'] as const;
export type Conversion = (typeof conversions)[number];

/**
 * How many did something within a year of an event they came to, beside those who had a seat for the same events and missed them. Whoever
 * meant to come is like whoever came; whoever never registered is not.
 */
export interface Converted {
  what: Conversion;
  came: Estimate & { count: number; n: number };
  missed: Estimate & { count: number; n: number };
  /**
   * By how much those who came are ahead, event by event and newcomers apart from others (Mantel and Haenszel’s difference of
   * risks, variance by Sato), with its bounds, how likely it is by chance, and over how many events it was worked out.
   */
  ahead: { by: number; low: number; high: number; p: number; events: number } | null;
}

/** Days within which it has to happen. */
const convertedDays = 365;

interface Cell {
  came: number;
  did: number;
  missed: number;
  missedDid: number;
}

export function conversionsOf(archive: Archive, visits: Visits, today: CalendarDate): Converted[] {
  const { events, people } = archive;
  const now = dayNumber(today);
  const happened = {
    gave: byPerson(archive.gifts, people),
    served: byPerson(archive.served, people),
    'came again': {
      start: visits.start,
      day: Int32Array.from(visits.event, (at) => events[at]!.day),
    },
  };
  return conversions.map((what) => {
    const did = happened[what];
    const total: Cell = { came: 0, did: 0, missed: 0, missedDid: 0 };
    const strata: Cell[] = [];
    let used = 0;
    for (const { day, over, seats } of events) {
      // Only where the time has passed for everybody.
      if (!over || day + convertedDays > now) continue;
      const cells: [Cell, Cell] = [
        { came: 0, did: 0, missed: 0, missedDid: 0 },
        { came: 0, did: 0, missed: 0, missedDid: 0 },
      ];
      for (let n = 0; n < seats.person.length; n++) {
        const person = seats.person[n]!;
        const state = seats.state[n]!;
        const here = state === seatState.came;
        // Whoever walked in had no seat to miss: there is nobody to compare them with.
        if (person < 0 || !(here || state === seatState.missed)) continue;
        const newcomer = firstVisit(visits, events, person) >= day;
        const cell = cells[newcomer ? 1 : 0];
        const done = didWithin(did, person, day, convertedDays);
        if (here) {
          cell.came += 1;
          if (done) cell.did += 1;
        } else {
          cell.missed += 1;
          if (done) cell.missedDid += 1;
        }
      }
      let both = false;
      for (const cell of cells) {
        total.came += cell.came;
        total.did += cell.did;
        total.missed += cell.missed;
        total.missedDid += cell.missedDid;
        if (cell.came && cell.missed) {
          strata.push(cell);
          both = true;
        }
      }
      if (both) used += 1;
    }
    return {
      what,
      came: { ...shareOf(total.did, total.came), count: total.did, n: total.came },
      missed: { ...shareOf(total.missedDid, total.missed), count: total.missedDid, n: total.missed },
      ahead: strata.length ? { ...aheadBy(strata), events: used } : null,
    };
  });
}

/** The day of somebody’s first visit; far ahead for who never came. */
const firstVisit = (visits: Visits, events: Archive['events'], person: number): number =>
  visits.start[person]! < visits.start[person + 1]!
    ? events[visits.event[visits.start[person]!]!]!.day
    : Number.MAX_SAFE_INTEGER;

interface ByPerson {
  start: Int32Array;
  day: Int32Array;
}

/** The days of each person one after the other, in order. */
function byPerson({ person, day }: Moments, people: number): ByPerson {
  const start = new Int32Array(people + 1);
  for (const p of person) start[p + 1]! += 1;
  for (let p = 0; p < people; p++) start[p + 1]! += start[p]!;
  const next = start.slice();
  const days = new Int32Array(day.length);
  for (let n = 0; n < person.length; n++) {
    days[next[person[n]!]!] = day[n]!;
    next[person[n]!]! += 1;
  }
  return { start, day: days };
}

/** Whether something happened to somebody after a day, within so many days. */
function didWithin({ start, day }: ByPerson, person: number, after: number, within: number): boolean {
  for (let n = start[person]!; n < start[person + 1]!; n++)
    if (day[n]! > after) return day[n]! <= after + within;
  return false;
}

/**
 * The difference of risks over strata: Mantel and Haenszel’s weights (Journal of the National Cancer Institute 22, 1959), its
 * variance by T. Sato (Biometrics 45, 1989).
 */
export function aheadBy(strata: readonly Cell[]): { by: number; low: number; high: number; p: number } {
  let [weights, sum, p, q] = [0, 0, 0, 0];
  for (const { came: n1, did: x1, missed: n0, missedDid: x0 } of strata) {
    const n = n1 + n0;
    weights += (n1 * n0) / n;
    sum += (x1 * n0 - x0 * n1) / n;
    p += (n1 ** 2 * x0 - n0 ** 2 * x1 + (n1 * n0 * (n0 - n1)) / 2) / n ** 2;
    q += (x1 * (n0 - x0) + x0 * (n1 - x1)) / (2 * n);
  }
  const by = sum / weights;
  const error = Math.sqrt(Math.max(0, (by * p + q) / weights ** 2));
  return {
    by,
    low: Math.max(-1, by - z975 * error),
    high: Math.min(1, by + z975 * error),
    p: error ? beyondNormal(by / error) : 1,
  };
}
