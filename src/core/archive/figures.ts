import { type Archive, type ArchiveEvent, isHeld, isHere, seatState, type Visits } from './archive.ts';

/** What the seats of one event come to. */
export interface SeatFigures {
  registered: number;
  came: number;
  missed: number;
  withdrawn: number;
  walkedIn: number;
  /** Of those who came, as people: how many there are on record, and for how many it was the first event. */
  people: number;
  firstTimers: number;
  /** Seats held against the capacity; null without one. */
  fill: number | null;
}

/** What the seats of some events come to, by their place in the archive. */
export function seatFigures({ events }: Pick<Archive, 'events'>, visits: Visits, at: number): SeatFigures {
  const event: ArchiveEvent = events[at]!;
  const { seats, capacity } = event;
  const found = { registered: 0, came: 0, missed: 0, withdrawn: 0, walkedIn: 0, people: 0, firstTimers: 0 };
  const seen = new Set<number>();
  for (let n = 0; n < seats.person.length; n++) {
    const state = seats.state[n]!;
    if (isHeld(state) && state !== seatState['walked in']) found.registered += 1;
    if (isHere(state)) found.came += 1;
    if (state === seatState.missed) found.missed += 1;
    if (state === seatState.withdrawn) found.withdrawn += 1;
    if (state === seatState['walked in']) found.walkedIn += 1;
    const person = seats.person[n]!;
    if (person < 0 || !isHere(state) || seen.has(person)) continue;
    seen.add(person);
    found.people += 1;
    if (visits.event[visits.start[person]!] === at) found.firstTimers += 1;
  }
  return { ...found, fill: capacity ? found.registered / capacity : null };
}

/** How many different people came to some events. */
export function differentPeople(
  { people }: Pick<Archive, 'people'>,
  events: readonly ArchiveEvent[],
): number {
  const seen = new Uint8Array(people);
  let count = 0;
  for (const { seats } of events)
    for (let n = 0; n < seats.person.length; n++) {
      const person = seats.person[n]!;
      if (person < 0 || !isHere(seats.state[n]!) || seen[person]) continue;
      seen[person] = 1;
      count += 1;
    }
  return count;
}
