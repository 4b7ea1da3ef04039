import { type Archive, type ArchiveEvent, isHeld, isHere, seatState } from './archive.ts';
import { middle } from './paths.ts';

/** How seats of some events were booked and given up, by days before. */
export interface Timing {
  kind: string | null;
  title: string | null;
  events: number;
  booked: number;
  withdrawn: number;
  /** The share that was booked, and of those booked by then given up, by so many days before; the last on the day itself. */
  curve: { before: number; booked: number; withdrawn: number }[];
  /** Half was booked by so many days before, and a tenth was left. */
  half: number | null;
  nine: number | null;
}

/** The days before that a curve is read at. */
const curveDays = [60, 42, 28, 21, 14, 10, 7, 5, 3, 2, 1, 0] as const;

/** How long before people book and give up: over all events, and for each kind with enough seats. */
export function timingOf({ events }: Archive, fewest = 30): Timing[] {
  const kinds = new Map<string, ArchiveEvent[]>();
  const past = events.filter((e) => e.over);
  for (const e of past) kinds.set(e.kind, [...(kinds.get(e.kind) ?? []), e]);
  return [
    curveOf(past, null, null),
    ...[...kinds]
      .map(([kind, of]) => curveOf(of, kind, of.at(-1)!.title))
      .filter((t) => t.booked >= fewest)
      .sort((a, b) => b.booked - a.booked),
  ];
}

function curveOf(events: readonly ArchiveEvent[], kind: string | null, title: string | null): Timing {
  const booked: number[] = [];
  const ended: number[] = [];
  for (const { seats } of events)
    for (let n = 0; n < seats.person.length; n++) {
      const state = seats.state[n]!;
      // Whoever walks in books nothing; what was never more than asked for is no booking.
      if (state === seatState['walked in'] || state === seatState.other) continue;
      booked.push(seats.bookedBefore[n]!);
      if (state === seatState.withdrawn) ended.push(seats.endedBefore[n]!);
    }
  const by = (of: readonly number[], before: number) => of.reduce((n, d) => n + (d >= before ? 1 : 0), 0);
  const sorted = [...booked].sort((a, b) => b - a);
  const at = (share: number) => (sorted.length ? sorted[Math.ceil(sorted.length * share) - 1]! : null);
  return {
    kind,
    title,
    events: events.length,
    booked: booked.length,
    withdrawn: ended.length,
    curve: curveDays.map((before) => ({
      before,
      booked: booked.length ? by(booked, before) / booked.length : 0,
      withdrawn: booked.length ? by(ended, before) / booked.length : 0,
    })),
    half: at(0.5),
    nine: at(0.9),
  };
}

/** How well events went on one weekday, in one month, at one time of day. */
export interface DateFit {
  of: 'weekday' | 'month' | 'hour';
  /** 0 is Sunday; months from 1; hours in three parts: 0 before noon, 1 in the afternoon, 2 from five on. */
  key: number;
  events: number;
  /** How many came against what is usual for the same kind of event: 1.1 is a tenth more. */
  came: number;
  /** Of those with a seat, how many came. */
  turnUp: number;
}

/** The fewest events that say something of a date, and the fewest of a kind that have something usual. */
const fewestDates = 3;

/** Which weekdays, months and hours went well by the history: each event against the middle of its own kind, so that a large one counts no more than a small one. */
export function bestDates({ events }: Archive): DateFit[] {
  const kinds = new Map<string, { came: number[] }>();
  const past = events.filter((e) => e.over).map((e) => ({ e, ...turnOut(e) }));
  for (const { e, came } of past) {
    const of = kinds.get(e.kind) ?? { came: [] };
    kinds.set(e.kind, of);
    of.came.push(came);
  }
  const cells = new Map<string, DateFit & { ratios: number[]; held: number; here: number }>();
  for (const { e, came, held, here } of past) {
    const of = kinds.get(e.kind)!.came;
    const usual = middle(of)!;
    if (of.length < fewestDates || usual <= 0) continue;
    for (const [what, key] of keysOf(e)) {
      const id = `${what} ${key}`;
      const cell = cells.get(id) ?? {
        of: what,
        key,
        events: 0,
        came: 0,
        turnUp: 0,
        ratios: [],
        held: 0,
        here: 0,
      };
      cells.set(id, cell);
      cell.ratios.push(came / usual);
      cell.held += held;
      cell.here += here;
    }
  }
  return [...cells.values()]
    .filter((c) => c.ratios.length >= fewestDates)
    .map(({ of, key, ratios, held, here }) => ({
      of,
      key,
      events: ratios.length,
      came: ratios.reduce((a, b) => a + b, 0) / ratios.length,
      turnUp: held ? here / held : 0,
    }))
    .sort((a, b) => (a.of === b.of ? a.key - b.key : a.of < b.of ? -1 : 1));
}

/** How many came to an event; how many held a seat to the end, and how many of those came. */
function turnOut({ seats }: Pick<ArchiveEvent, 'seats'>): {
  came: number;
  held: number;
  here: number;
} {
  let [came, held, here] = [0, 0, 0];
  for (const state of seats.state) {
    if (isHere(state)) came += 1;
    if (isHeld(state) && state !== seatState['walked in']) {
      held += 1;
      if (state === seatState.came) here += 1;
    }
  }
  return { came, held, here };
}

const keysOf = ({ day, startsLocal }: ArchiveEvent): (readonly [DateFit['of'], number])[] => {
  const hour = Number(startsLocal.slice(11, 13));
  return [
    // 1970-01-01 was a Thursday.
    ['weekday', (((day + 4) % 7) + 7) % 7],
    ['month', Number(startsLocal.slice(5, 7))],
    ['hour', hour < 12 ? 0 : hour < 17 ? 1 : 2],
  ];
};
