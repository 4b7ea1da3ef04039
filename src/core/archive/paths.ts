import { type Estimate, shareOf } from '#core/statistics/intervals.ts';
import type { Archive, ArchiveEvent, Visits } from './archive.ts';

/** How far people come: first event, second, a gift, a shift. Each step counts those who took the one before. */
export interface Steps {
  first: number;
  second: Estimate & { count: number };
  /** Of those who came, whether once or often. */
  gave: Estimate & { count: number };
  served: Estimate & { count: number };
  /** Of those who came twice. */
  gaveAfterTwo: Estimate & { count: number };
  servedAfterTwo: Estimate & { count: number };
}

/** A way people go: what they came to first and then. */
export interface Path {
  first: { kind: string; title: string };
  /** Null for those who came once. */
  second: { kind: string; title: string } | null;
  people: number;
  /** How many of them gave, and how many helped, after their first event. */
  gave: Estimate;
  served: Estimate;
  /** Half of them came the second time within so many days. */
  days: number | null;
}

const counted = (count: number, n: number) => ({ ...shareOf(count, n), count });

/** The ways people go from their first event to the second, to a gift and to a shift; what comes before the first event does not count. */
export function pathsOf(archive: Archive, visits: Visits, most = 20): { steps: Steps; paths: Path[] } {
  const { events, people } = archive;
  const [gift, shift] = [lastDays(archive, 'gifts'), lastDays(archive, 'served')];
  const at = (n: number): ArchiveEvent => events[visits.event[n]!]!;
  const total = { first: 0, second: 0, gave: 0, served: 0, gaveAfterTwo: 0, servedAfterTwo: 0 };
  const ways = new Map<
    string,
    {
      first: ArchiveEvent;
      second: ArchiveEvent | null;
      people: number;
      gave: number;
      served: number;
      days: number[];
    }
  >();
  for (let p = 0; p < people; p++) {
    const [from, to] = [visits.start[p]!, visits.start[p + 1]!];
    if (from === to) continue;
    const first = at(from);
    const second = from + 1 < to ? at(from + 1) : null;
    const gave = gift[p]! >= first.day;
    const served = shift[p]! >= first.day;
    total.first += 1;
    if (gave) total.gave += 1;
    if (served) total.served += 1;
    if (second) {
      total.second += 1;
      if (gave) total.gaveAfterTwo += 1;
      if (served) total.servedAfterTwo += 1;
    }
    const key = `${first.kind} ${second?.kind ?? ''}`;
    const way = ways.get(key) ?? { first, second, people: 0, gave: 0, served: 0, days: [] };
    ways.set(key, way);
    way.first = first;
    way.second = second;
    way.people += 1;
    if (gave) way.gave += 1;
    if (served) way.served += 1;
    if (second) way.days.push(second.day - first.day);
  }
  const name = (e: ArchiveEvent) => ({ kind: e.kind, title: e.title });
  return {
    steps: {
      first: total.first,
      second: counted(total.second, total.first),
      gave: counted(total.gave, total.first),
      served: counted(total.served, total.first),
      gaveAfterTwo: counted(total.gaveAfterTwo, total.second),
      servedAfterTwo: counted(total.servedAfterTwo, total.second),
    },
    paths: [...ways.values()]
      .sort((a, b) => b.people - a.people)
      .slice(0, most)
      .map((way) => ({
        first: name(way.first),
        second: way.second && name(way.second),
        people: way.people,
        gave: shareOf(way.gave, way.people),
        served: shareOf(way.served, way.people),
        days: middle(way.days),
      })),
  };
}

/** The last day on which each person did something; −1 for never. */
function lastDays({ people, ...of }: Archive, what: 'gifts' | 'served'): Int32Array {
  const { person, day } = of[what];
  const last = new Int32Array(people).fill(-1);
  for (let n = 0; n < person.length; n++) last[person[n]!] = Math.max(last[person[n]!]!, day[n]!);
  return last;
}

/** The middle of some figures; null of none. */
export function middle(of: readonly number[]): number | null {
  if (!of.length) return null;
  const sorted = [...of].sort((a, b) => a - b);
  const half = sorted.length / 2;
  return Number.isInteger(half) ? (sorted[half - 1]! + sorted[half]!) / 2 : sorted[Math.floor(half)]!;
}
