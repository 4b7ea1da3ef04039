import { anyOn } from './days.ts';
import { type Ground, tooManyDays } from './ground.ts';

/** Shifts one unit could have together, all at once. */
export interface Column {
  unit: number;
  shifts: readonly number[];
  /** How much they want them, and the squares of the hours its people have with them less what they have without. */
  wishes: number;
  squares: number;
}

/** What a unit is kept to: minutes and shifts it has room for, by the shifts that count for it. */
interface Room {
  minutes: number;
  shifts: number;
  counts: (shift: number) => boolean;
}

/**
 * People of one unit have the same shifts, so the one with the least room decides for all of them, but where some are fixed on
 * a shift the others can still come to.
 */
function roomsOf(ground: Ground, unit: number, mostMinutes: number): Room[] {
  const { units, instance, fixedOf, fixedMinutes } = ground;
  const of = units[unit]!;
  const rooms = of.people.map((p): Room => {
    const { maxHours, maxShifts } = instance.people[p]!;
    return {
      minutes: Math.min(maxHours === null ? Infinity : maxHours * 60, mostMinutes) - fixedMinutes[p]!,
      shifts: (maxShifts ?? Infinity) - fixedOf[p]!.length,
      counts: (shift) => !fixedOf[p]!.includes(shift),
    };
  });
  const mixed = of.sizes.some((size) => size !== of.people.length);
  if (mixed) return rooms;
  return [
    {
      minutes: Math.min(...rooms.map((r) => r.minutes)),
      shifts: Math.min(...rooms.map((r) => r.shifts)),
      counts: () => true,
    },
  ];
}

/** Hours squared that the people of a unit have with some minutes more, less what they have without. */
function squaresOf(ground: Ground, unit: number, shifts: readonly number[]): number {
  const { units, fixedMinutes, fixedOf } = ground;
  return units[unit]!.people.reduce((sum, p) => {
    const before = fixedMinutes[p]! / 60;
    const more = shifts.reduce(
      (m, s) => m + (fixedOf[p]!.includes(s) ? 0 : ground.shifts[s]!.minutes / 60),
      0,
    );
    return sum + (before + more) ** 2 - before ** 2;
  }, 0);
}

export function columnOf(ground: Ground, unit: number, shifts: readonly number[]): Column {
  const of = ground.units[unit]!;
  return {
    unit,
    shifts,
    wishes: shifts.reduce((sum, s) => sum + of.wishes[of.at.get(s)!]!, 0),
    squares: squaresOf(ground, unit, shifts),
  };
}

/** Ways of having some shifts, side by side in arrays that are kept: there are millions of them. */
class Ways {
  #room = 4096;
  worth = new Float64Array(this.#room);
  before = new Int32Array(this.#room);
  shift = new Int32Array(this.#room);
  /** The minute from which on nothing of it can be in the way any more. */
  until = new Float64Array(this.#room);
  /** Minutes and number of shifts, by room. */
  minutes = new Float64Array(this.#room * 2);
  count = new Float64Array(this.#room * 2);

  /** Makes room for some more, each kept to so many rooms. */
  have(many: number, rooms: number): void {
    if (many * rooms <= this.minutes.length && many <= this.#room) return;
    const grown = <T extends Float64Array | Int32Array>(from: T, length: number): T => {
      const to = from instanceof Int32Array ? new Int32Array(length) : new Float64Array(length);
      to.set(from as never);
      return to as T;
    };
    this.#room = Math.max(this.#room * 2, many);
    this.worth = grown(this.worth, this.#room);
    this.before = grown(this.before, this.#room);
    this.shift = grown(this.shift, this.#room);
    this.until = grown(this.until, this.#room);
    this.minutes = grown(this.minutes, this.#room * Math.max(2, rooms));
    this.count = grown(this.count, this.#room * Math.max(2, rooms));
  }
}

const ways = new Ways();

/** The people of a unit who want no more than so many days in a row. */
const mindDays = (ground: Ground, unit: number): number[] =>
  ground.units[unit]!.people.filter((p) => ground.inARow[p] !== null);

/** What of a way decides how many days in a row come of what is added on a day or after it: the days before it, by person, and the day. */
interface Trail {
  before: readonly number[];
  there: boolean;
}

/** The shifts of a way, the last first. */
function pathOf(way: number): number[] {
  const path: number[] = [];
  for (let w = way; w > 0; w = ways.before[w]!) path.push(ways.shift[w]!);
  return path;
}

function trailOf(ground: Ground, minding: readonly number[], way: number, day: number): Trail {
  const path = pathOf(way);
  return {
    there: anyOn(ground.days, path, day),
    before: minding.map((p) => {
      const { taken } = ground.inARow[p]!;
      let count = 0;
      while (taken.has(day - count - 1) || anyOn(ground.days, path, day - count - 1)) count += 1;
      return count;
    }),
  };
}

/** Whether whoever goes on from one trail can do all that whoever goes on from another can. */
const leavesAsMuch = (a: Trail, b: Trail): boolean =>
  a.there === b.there && a.before.every((count, n) => count <= b.before[n]!);

/** Whether one way is worth as much as another, and takes no more of any room. */
function noWorse(a: number, b: number, rooms: number): boolean {
  if (ways.worth[a]! < ways.worth[b]!) return false;
  for (let r = 0; r < rooms; r += 1)
    if (
      ways.minutes[a * rooms + r]! > ways.minutes[b * rooms + r]! ||
      ways.count[a * rooms + r]! > ways.count[b * rooms + r]!
    )
      return false;
  return true;
}

/**
 * Those of some ways that are worse than none of which nothing is in the way any more. With `trail`, days in a row count: of a way
 * that ends before the day it is asked of.
 */
function thinned(
  of: readonly number[],
  from: number,
  rooms: number,
  trail: ((way: number) => Trail) | null,
): number[] {
  const trails = trail && new Map(of.map((way) => [way, trail(way)]));
  const worse = (than: number, way: number): boolean =>
    noWorse(than, way, rooms) && (!trails || leavesAsMuch(trails.get(than)!, trails.get(way)!));
  const free: number[] = [];
  const busy: number[] = [];
  for (const way of of) (ways.until[way]! > from ? busy : free).push(way);
  free.sort((a, b) => ways.worth[b]! - ways.worth[a]!);
  const kept: number[] = [];
  for (const way of free) if (!kept.some((k) => worse(k, way))) kept.push(way);
  const settled = kept.length;
  for (const way of busy) {
    let is = false;
    for (let k = 0; k < settled && !is; k += 1) is = worse(kept[k]!, way);
    if (!is) kept.push(way);
  }
  return kept;
}

/**
 * The shifts a unit would best have together where each is worth something: a walk through its shifts in order of time that
 * keeps every way of having some of them that is not worse than another. Exact. With `squared`, the squares of hours times
 * it are taken off. The best first, at most `most` of them, each worth more than `above`.
 */
export function bestColumns(
  ground: Ground,
  unit: number,
  worths: (at: number) => number,
  of: { squared: number; above: number; most: number; mostMinutes: number },
): { worth: number; shifts: number[] }[] {
  const { shifts, conflicts, instance } = ground;
  const own = ground.units[unit]!;
  const rooms = roomsOf(ground, unit, of.mostMinutes);
  const many = rooms.length;
  // How long a shift can be in the way of another after it.
  const rest = Math.max(instance.rules.restHours * 60, instance.rules.placeMinutes);
  const minding = mindDays(ground, unit);
  ways.have(4096, many);
  let made = 1;
  ways.worth[0] = 0;
  ways.before[0] = -1;
  ways.shift[0] = -1;
  ways.until[0] = -Infinity;
  for (let r = 0; r < many; r += 1) {
    ways.minutes[r] = 0;
    ways.count[r] = 0;
  }
  let live: number[] = [0];
  let thinAt = 16;
  for (const [at, shift] of own.shifts.entries()) {
    const worth = worths(at);
    if (worth <= 1e-9) continue;
    const { start, end, minutes } = shifts[shift]!;
    if (live.length >= thinAt) {
      const day = ground.days[shift]?.first ?? 0;
      live = thinned(live, start, many, minding.length ? (way) => trailOf(ground, minding, way, day) : null);
      thinAt = Math.max(16, live.length * 1.5);
    }
    const row = shift * shifts.length;
    const there = live.length;
    for (let n = 0; n < there; n += 1) {
      const way = live[n]!;
      let fits = true;
      if (ways.until[way]! > start)
        for (let w = way; w > 0 && fits; w = ways.before[w]!) fits = !conflicts[row + ways.shift[w]!];
      if (fits && minding.length) {
        const path = pathOf(way);
        fits = minding.every((p) => !tooManyDays(ground, p, shift, path));
      }
      if (!fits) continue;
      ways.have(made + 1, many);
      for (let r = 0; r < many; r += 1) {
        const counts = rooms[r]!.counts(shift) ? 1 : 0;
        const m = ways.minutes[way * many + r]! + counts * minutes;
        const c = ways.count[way * many + r]! + counts;
        if (m > rooms[r]!.minutes || c > rooms[r]!.shifts) fits = false;
        ways.minutes[made * many + r] = m;
        ways.count[made * many + r] = c;
      }
      if (!fits) continue;
      ways.worth[made] = ways.worth[way]! + worth;
      ways.before[made] = way;
      ways.shift[made] = shift;
      ways.until[made] = Math.max(ways.until[way]!, end + rest);
      live.push(made);
      made += 1;
    }
  }
  const out: { worth: number; shifts: number[] }[] = [];
  for (const way of live) {
    if (ways.worth[way]! <= of.above) continue;
    const path = pathOf(way).reverse();
    const worth = ways.worth[way]! - (of.squared ? of.squared * squaresOf(ground, unit, path) : 0);
    if (worth > of.above) out.push({ worth, shifts: path });
  }
  return out.sort((a, b) => b.worth - a.worth).slice(0, of.most);
}

/** Everything a unit can do of some shifts but nothing; null where that is more than so many things. */
export function allColumns(
  ground: Ground,
  unit: number,
  most: number,
  own: readonly number[] = ground.units[unit]!.shifts,
  mostMinutes = Infinity,
): number[][] | null {
  const { shifts, conflicts } = ground;
  const rooms = roomsOf(ground, unit, mostMinutes);
  const minding = mindDays(ground, unit);
  const out: number[][] = [];
  const walk = (from: number, having: readonly number[], minutes: number[], count: number[]): boolean => {
    for (let n = from; n < own.length; n += 1) {
      const shift = own[n]!;
      if (having.some((other) => conflicts[shift * shifts.length + other])) continue;
      if (minding.some((p) => tooManyDays(ground, p, shift, having))) continue;
      const m = minutes.map((was, r) => was + (rooms[r]!.counts(shift) ? shifts[shift]!.minutes : 0));
      const c = count.map((was, r) => was + (rooms[r]!.counts(shift) ? 1 : 0));
      if (rooms.some((room, r) => m[r]! > room.minutes || c[r]! > room.shifts)) continue;
      if (out.length >= most) return false;
      const more = [...having, shift];
      out.push(more);
      if (!walk(n + 1, more, m, c)) return false;
    }
    return true;
  };
  return walk(
    0,
    [],
    rooms.map(() => 0),
    rooms.map(() => 0),
  )
    ? out
    : null;
}
