/**
 * The history of an organization in memory, as columns: a million seats take some fifteen megabytes, and every question about them is a walk
 * through arrays. People are numbers; who is who is asked of the database where names are shown.
 */
export interface Archive {
  /** Events that took place or were to, in the order of time; templates, drafts and those called off are not among them. */
  events: readonly ArchiveEvent[];
  /** How many people there are: each has a number below it. */
  people: number;
  /** Gifts and shifts served, in the order of days. */
  gifts: Moments;
  served: Moments;
}

/** Things people did on days; the same index in each. */
export interface Moments {
  person: Int32Array;
  /** Days since 1970-01-01. */
  day: Int32Array;
}

export interface ArchiveEvent {
  id: string;
  title: string;
  /** What it goes back to by copying: what happens again and again has one. */
  kind: string;
  unitId: string | null;
  /** The day it began, as days since 1970-01-01, and the wall time. */
  day: number;
  startsLocal: string;
  /** Whether it is over, so that who came is known. */
  over: boolean;
  capacity: number | null;
  seats: Seats;
}

/** The seats of one event; the same index in each. */
export interface Seats {
  /** Whose it is; −1 where nobody is on record. */
  person: Int32Array;
  state: Uint8Array;
  /** How many days before the event it was booked, and given up; below nought afterwards. */
  bookedBefore: Int16Array;
  endedBefore: Int16Array;
}

/** What became of a seat. A seat is withdrawn, or its holder came, missed it, or is expected. */
const seatStates = ['expected', 'came', 'missed', 'withdrawn', 'walked in', 'other'] as const;
export type SeatState = (typeof seatStates)[number];
export const seatState = Object.fromEntries(seatStates.map((s, at) => [s, at])) as Record<SeatState, number>;

/** True of somebody who came, with a seat or without one. */
export const isHere = (state: number): boolean =>
  state === seatState.came || state === seatState['walked in'];
/** True of a seat that was held to the end. */
export const isHeld = (state: number): boolean => state !== seatState.withdrawn && state !== seatState.other;

/** What somebody came to, in the order of time: an index into the events of the archive for each time. */
export interface Visits {
  /** Where the visits of a person begin; those of the last end at the length of `event`. */
  start: Int32Array;
  event: Int32Array;
}

/** Everybody's visits, each event once a person. */
export function visitsOf(archive: Archive): Visits {
  const { events, people } = archive;
  const start = new Int32Array(people + 1);
  const last = new Int32Array(people).fill(-1);
  const walk = (each: (person: number, at: number) => void) => {
    last.fill(-1);
    for (const [at, { seats, over }] of events.entries()) {
      if (!over) continue;
      for (let n = 0; n < seats.person.length; n++) {
        const person = seats.person[n]!;
        if (person < 0 || !isHere(seats.state[n]!) || last[person] === at) continue;
        last[person] = at;
        each(person, at);
      }
    }
  };
  walk((person) => {
    start[person + 1]! += 1;
  });
  for (let p = 0; p < people; p++) start[p + 1]! += start[p]!;
  const event = new Int32Array(start[people]!);
  const next = start.slice();
  walk((person, at) => {
    event[next[person]!] = at;
    next[person]! += 1;
  });
  return { start, event };
}
