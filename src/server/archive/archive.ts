import {
  type Archive,
  type ArchiveEvent,
  type Moments,
  type Seats,
  seatState,
  type Visits,
  visitsOf,
} from '#core/archive/archive.ts';
import { dayNumber } from '#core/time/dayRuns.ts';
import type { App } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { type KeptEvent, readDays, readKept, readPacked } from './store.ts';

/** The archive as it is kept in memory, with what tells whether a part of it has to be read anew. */
interface Kept {
  /** People by their ids: the number each has here. */
  numbers: Map<string, number>;
  ids: string[];
  seats: Map<string, { version: string; seats: Seats }>;
  gifts: { mark: string; moments: Moments };
  served: { mark: string; moments: Moments };
  /** What was put together last, and of which versions. */
  made: { of: string; archive: Archive; visits: Visits } | null;
  /** One reading at a time. */
  reading: Promise<unknown>;
}

const kept = new WeakMap<App, Kept>();
const nothing: Moments = { person: new Int32Array(), day: new Int32Array() };
const empty = (): Kept => ({
  numbers: new Map(),
  ids: [],
  seats: new Map(),
  gifts: { mark: '', moments: nothing },
  served: { mark: '', moments: nothing },
  made: null,
  reading: Promise.resolve(),
});

/** The history in memory, everybody’s visits, and who the numbers are. */
export interface Opened {
  archive: Archive;
  visits: Visits;
  /** The id of a person by their number. */
  idOf(person: number): string;
}

/** How many events are read at once: between two lots others have their turn. */
const lot = 25;

/**
 * The archive as it stands now. What changed since it was asked for last is read anew, event by event; the first time everything is. What it
 * tells of is never older than the transaction that asks.
 */
export async function openArchive({ app, tx, now }: { app: App; tx: Queries; now: string }): Promise<Opened> {
  const own = kept.get(app) ?? empty();
  kept.set(app, own);
  const read = own.reading.then(() => refresh(own, tx, now));
  // What goes wrong for one does not go wrong for the next.
  own.reading = read.catch(() => undefined);
  return read;
}

/** Reads the archive ahead of whoever asks first, lot by lot, so that nobody waits for it nor for the database meanwhile. */
export const warmArchive = (app: App): Promise<unknown> =>
  openArchive({ app, tx: app.db, now: app.clock.now() });

async function refresh(own: Kept, tx: Queries, now: string): Promise<Opened> {
  const events = await readKept(tx, now);
  const stale = events.filter((e) => own.seats.get(e.id)?.version !== e.version);
  for (let at = 0; at < stale.length; at += lot) {
    const some = stale.slice(at, at + lot);
    const packed = new Map(
      (
        await readPacked(
          tx,
          some.map((e) => e.id),
        )
      ).map((p) => [p.eventId, p]),
    );
    for (const event of some) {
      const found = packed.get(event.id);
      own.seats.set(event.id, { version: event.version, seats: found ? unpack(own, found) : noSeats() });
    }
  }
  for (const what of ['gifts', 'served'] as const) await refreshDays(own, tx, what);
  const of = JSON.stringify([
    events.map((e) => [e.id, e.version, e.title, e.over, e.kind, e.capacity, e.unitId, e.startsLocal]),
    own.gifts.mark,
    own.served.mark,
  ]);
  if (own.made?.of !== of) {
    const archive: Archive = {
      events: events.map((e) => eventOf(e, own.seats.get(e.id)!.seats)),
      people: own.ids.length,
      gifts: own.gifts.moments,
      served: own.served.moments,
    };
    own.made = { of, archive, visits: visitsOf(archive) };
  }
  const { archive, visits } = own.made;
  return { archive, visits, idOf: (person) => own.ids[person]! };
}

const noSeats = (): Seats => ({
  person: new Int32Array(),
  state: new Uint8Array(),
  bookedBefore: new Int16Array(),
  endedBefore: new Int16Array(),
});

const eventOf = ({ version: _, startsOn, ...e }: KeptEvent, seats: Seats): ArchiveEvent => ({
  ...e,
  day: dayNumber(startsOn),
  seats,
});

/** The number of somebody; a new one gets the next. */
function numberOf(own: Kept, id: string): number {
  const known = own.numbers.get(id);
  if (known !== undefined) return known;
  own.ids.push(id);
  own.numbers.set(id, own.ids.length - 1);
  return own.ids.length - 1;
}

const codes: Readonly<Record<string, number>> = {
  e: seatState.expected,
  c: seatState.came,
  m: seatState.missed,
  w: seatState.withdrawn,
  i: seatState['walked in'],
  o: seatState.other,
};

/** What the database packed: sixteen bytes a person, a letter a state, two bytes a day, each in the same order. */
function unpack(own: Kept, packed: { people: string; states: string; booked: string; ended: string }): Seats {
  const people = Buffer.from(packed.people, 'base64');
  const booked = Buffer.from(packed.booked, 'base64');
  const ended = Buffer.from(packed.ended, 'base64');
  const count = packed.states.length;
  const seats: Seats = {
    person: new Int32Array(count),
    state: new Uint8Array(count),
    bookedBefore: new Int16Array(count),
    endedBefore: new Int16Array(count),
  };
  for (let n = 0; n < count; n++) {
    const hex = people.toString('hex', n * 16, n * 16 + 16);
    seats.person[n] = /^0+$/u.test(hex) ? -1 : numberOf(own, asId(hex));
    seats.state[n] = codes[packed.states[n]!]!;
    seats.bookedBefore[n] = booked.readInt16BE(n * 2);
    seats.endedBefore[n] = ended.readInt16BE(n * 2);
  }
  return seats;
}

const asId = (hex: string): string =>
  `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;

/** Reads days of gifts or shifts anew where any came or went. */
async function refreshDays(own: Kept, tx: Queries, what: 'gifts' | 'served'): Promise<void> {
  const { mark, rows } = await readDays(tx, what, own[what].mark);
  if (!rows) return;
  const moments: Moments = { person: new Int32Array(rows.length), day: new Int32Array(rows.length) };
  for (const [n, { contactId, day }] of rows.entries()) {
    moments.person[n] = numberOf(own, contactId);
    moments.day[n] = day;
  }
  own[what] = { mark, moments };
}
