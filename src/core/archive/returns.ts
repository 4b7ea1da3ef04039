import { type Estimate, shareOf } from '#core/statistics/intervals.ts';
import type { CalendarDate } from '#core/time/clock.ts';
import { dayNumber } from '#core/time/dayRuns.ts';
import type { Archive, ArchiveEvent, Visits } from './archive.ts';

/** People whose first event was in one year, or of one kind, and how many of them came back. */
export interface Cohort {
  /** The year, or the kind of event. */
  key: string;
  title: string;
  people: number;
  /** How many came again within one, two and three years of their first event, of those for whom that time has passed; null where it has for nobody. */
  within: ((Estimate & { n: number }) | null)[];
  /** To how many events each of them came on average. */
  visits: number;
}

/** Years after the first event that people are followed for. */
const followedYears = 3;
const yearDays = 365;

/** People with the same beginning, as they are counted. */
class Group {
  people = 0;
  visits = 0;
  /** For how many so many years have passed, and how many of them came again in that time. */
  passed = new Array<number>(followedYears).fill(0);
  again = new Array<number>(followedYears).fill(0);
  constructor(
    readonly key: string,
    public title: string,
  ) {}

  take(age: number, second: number | null, visits: number): void {
    this.people += 1;
    this.visits += visits;
    for (let y = 0; y < followedYears; y++) {
      if (age < (y + 1) * yearDays) continue;
      this.passed[y]! += 1;
      if (second !== null && second <= (y + 1) * yearDays) this.again[y]! += 1;
    }
  }

  done(): Cohort {
    const { key, title, people } = this;
    return {
      key,
      title,
      people,
      within: this.passed.map((n, y) => (n ? { ...shareOf(this.again[y]!, n), n } : null)),
      visits: this.visits / people,
    };
  }
}

/** How many of those who came the first time came again: by the year of their first event, and by its kind. */
export function returnsOf(
  { events, people }: Archive,
  visits: Visits,
  today: CalendarDate,
): { byYear: Cohort[]; byKind: Cohort[] } {
  const now = dayNumber(today);
  const [years, kinds] = [new Map<string, Group>(), new Map<string, Group>()];
  const of = (groups: Map<string, Group>, key: string, title: string): Group => {
    const group = groups.get(key) ?? new Group(key, title);
    groups.set(key, group);
    // What happens again and again is called as it was the last time.
    group.title = title;
    return group;
  };
  const at = (n: number): ArchiveEvent => events[visits.event[n]!]!;
  for (let p = 0; p < people; p++) {
    const [from, to] = [visits.start[p]!, visits.start[p + 1]!];
    if (from === to) continue;
    const first = at(from);
    const year = first.startsLocal.slice(0, 4);
    const second = from + 1 < to ? at(from + 1).day - first.day : null;
    for (const group of [of(years, year, year), of(kinds, first.kind, first.title)])
      group.take(now - first.day, second, to - from);
  }
  return {
    byYear: [...years.values()].map((g) => g.done()).sort((a, b) => (a.key < b.key ? -1 : 1)),
    byKind: [...kinds.values()]
      .map((g) => g.done())
      .sort((a, b) => b.people - a.people || (a.title < b.title ? -1 : 1)),
  };
}
