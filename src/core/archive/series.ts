import type { Archive, Visits } from './archive.ts';
import { seatFigures } from './figures.ts';

/** One time of what takes place again and again. */
export interface SeriesTime {
  id: string;
  /** The local day it began, yyyy-mm-dd. */
  on: string;
  registered: number;
  came: number;
  firstTimers: number;
  capacity: number | null;
}

/** What took place more than once under one kind; what it is called and whose it is, as of its last time. */
export interface Series {
  kind: string;
  title: string;
  unitId: string | null;
  times: SeriesTime[];
}

/** The series of the archive that took place twice or more, the longest first, then by title. */
export function seriesOf(archive: Archive, visits: Visits): Series[] {
  const kinds = new Map<string, number[]>();
  for (const [at, e] of archive.events.entries()) {
    if (!e.over) continue;
    const of = kinds.get(e.kind);
    if (of) of.push(at);
    else kinds.set(e.kind, [at]);
  }
  return [...kinds]
    .filter(([, of]) => of.length > 1)
    .map(([kind, of]) => {
      const { title, unitId } = archive.events[of.at(-1)!]!;
      const times = of.map((at) => {
        const { id, startsLocal, capacity } = archive.events[at]!;
        const { registered, came, firstTimers } = seatFigures(archive, visits, at);
        return { id, on: startsLocal.slice(0, 10), registered, came, firstTimers, capacity };
      });
      return { kind, title, unitId, times };
    })
    .sort((a, b) => b.times.length - a.times.length || (a.title < b.title ? -1 : 1));
}
