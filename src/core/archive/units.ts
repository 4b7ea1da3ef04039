import { type Archive, isHere, type Visits } from './archive.ts';
import { seatFigures } from './figures.ts';

/** What the events of one unit came to in one year. */
export interface UnitYear {
  /** Null for events of the whole organization. */
  unitId: string | null;
  year: string;
  events: number;
  registered: number;
  came: number;
  missed: number;
  /** Different people, and for how many of them it was the first event of all. */
  people: number;
  firstTimers: number;
  /** The events, by their ids. */
  eventIds: string[];
}

/** What each unit’s events came to, year by year, the newest year first. */
export function unitYears(archive: Archive, visits: Visits): UnitYear[] {
  const found = new Map<string, UnitYear & { seen: Set<number> }>();
  for (const [at, event] of archive.events.entries()) {
    if (!event.over) continue;
    const year = event.startsLocal.slice(0, 4);
    const key = `${event.unitId ?? ''} ${year}`;
    const of = found.get(key) ?? {
      unitId: event.unitId,
      year,
      events: 0,
      registered: 0,
      came: 0,
      missed: 0,
      people: 0,
      firstTimers: 0,
      eventIds: [],
      seen: new Set<number>(),
    };
    found.set(key, of);
    const { registered, came, missed, firstTimers } = seatFigures(archive, visits, at);
    of.events += 1;
    of.registered += registered;
    of.came += came;
    of.missed += missed;
    of.firstTimers += firstTimers;
    of.eventIds.push(event.id);
    const { person, state } = event.seats;
    for (let n = 0; n < person.length; n++) if (person[n]! >= 0 && isHere(state[n]!)) of.seen.add(person[n]!);
  }
  return [...found.values()]
    .map(({ seen, ...of }) => ({ ...of, people: seen.size }))
    .sort((a, b) =>
      a.year === b.year ? (a.unitId ?? '').localeCompare(b.unitId ?? '') : a.year < b.year ? 1 : -1,
    );
}
