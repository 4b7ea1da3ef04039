import type { CalendarDate } from '#core/time/clock.ts';
import { dayNumber } from '#core/time/dayRuns.ts';
import { type Archive, seatState, type Visits } from './archive.ts';
import { middle } from './paths.ts';

/** Somebody who used to come and has not been for longer than they ever let pass. */
export interface Drifting {
  person: number;
  times: number;
  /** Days from one visit to the next, in the middle, and the longest they ever let pass. */
  usual: number;
  longest: number;
  /** Days since they were here, and the event they were at. */
  since: number;
  lastEvent: number;
  /** What they come to most, how often they came to it, and how many of it took place since. */
  kind: string;
  kindTitle: string;
  kindTimes: number;
  missedDates: number;
  /** How often they had a seat since and did not come. */
  absent: number;
  /** How far beyond their own rhythm they are: 1 is as long as they ever let pass. */
  beyond: number;
}

/** From how many visits on somebody has a rhythm, and for how many days at least they have to be away. */
const rhythm = { times: 3, days: 60 } as const;
/** Longer than this ago, they have left; they are not drifting any more. */
const goneDays = 3 * 365;

/**
 * Those who drift away, the furthest beyond their own rhythm first: away for more than half as long again as they ever let pass, and twice what is usual for them, while
 * what they come to went on without them.
 */
export function driftingAway(archive: Archive, visits: Visits, today: CalendarDate): Drifting[] {
  const { events, people } = archive;
  const now = dayNumber(today);
  const held = new Map<string, number[]>();
  for (const e of events) {
    if (!e.over) continue;
    const days = held.get(e.kind) ?? [];
    held.set(e.kind, days);
    days.push(e.day);
  }
  const found: Drifting[] = [];
  for (let p = 0; p < people; p++) {
    const [from, to] = [visits.start[p]!, visits.start[p + 1]!];
    if (to - from < rhythm.times) continue;
    const last = events[visits.event[to - 1]!]!;
    const since = now - last.day;
    if (since < rhythm.days || since > goneDays) continue;
    const gaps: number[] = [];
    const kinds = new Map<string, { times: number; title: string }>();
    for (let n = from; n < to; n++) {
      const e = events[visits.event[n]!]!;
      if (n > from) gaps.push(e.day - events[visits.event[n - 1]!]!.day);
      kinds.set(e.kind, { times: (kinds.get(e.kind)?.times ?? 0) + 1, title: e.title });
    }
    const usual = middle(gaps)!;
    const longest = Math.max(...gaps);
    if (since <= longest * 1.5 || since <= usual * 2) continue;
    const [kind, { times: kindTimes, title: kindTitle }] = [...kinds].sort(
      (a, b) => b[1].times - a[1].times,
    )[0]!;
    const missedDates = held.get(kind)!.filter((day) => day > last.day && day <= now).length;
    // Where nothing took place since, nobody stays away.
    if (!missedDates) continue;
    found.push({
      person: p,
      times: to - from,
      usual,
      longest,
      since,
      lastEvent: visits.event[to - 1]!,
      kind,
      kindTitle,
      kindTimes,
      missedDates,
      absent: 0,
      beyond: since / Math.max(longest, 1),
    });
  }
  countAbsent(archive, found, now);
  return found.sort((a, b) => b.beyond * Math.sqrt(b.times) - a.beyond * Math.sqrt(a.times));
}

/** How often each had a seat since their last visit and did not come. */
function countAbsent({ events, people }: Archive, found: readonly Drifting[], now: number): void {
  const at = new Int32Array(people).fill(-1);
  for (const [index, { person }] of found.entries()) at[person] = index;
  for (const { day, seats, over } of events) {
    if (!over || day > now) continue;
    for (let n = 0; n < seats.person.length; n++) {
      const index = seats.person[n]! < 0 ? -1 : at[seats.person[n]!]!;
      if (index < 0) continue;
      const one = found[index]!;
      // A seat that was missed, or given up.
      const state = seats.state[n]!;
      if (day > events[one.lastEvent]!.day && (state === seatState.missed || state === seatState.withdrawn))
        one.absent += 1;
    }
  }
}
