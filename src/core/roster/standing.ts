import { type Ground, tooManyDays } from './ground.ts';

/**
 * Who is on what while a roster is worked out: what is fixed, and units on shifts. Keeps what every question needs to be
 * answered without going through everybody.
 */
export class Standing {
  readonly ground: Ground;
  /** Shifts of each unit, and units on each shift, beside what is fixed. */
  readonly shiftsOf: number[][];
  readonly unitsOn: number[][];
  /** People on each shift, and how many of them are of age. */
  readonly filled: Int32Array;
  readonly #adults: Int32Array;
  /** Minutes and number of shifts of each person. */
  readonly minutes: Float64Array;
  readonly #count: Int32Array;
  readonly #maxMinutes: Float64Array;
  readonly #maxShifts: Float64Array;

  constructor(ground: Ground) {
    this.ground = ground;
    const { people } = ground.instance;
    this.shiftsOf = ground.units.map(() => []);
    this.unitsOn = ground.shifts.map(() => []);
    this.filled = Int32Array.from(ground.shifts, (s) => s.fixed);
    this.#adults = Int32Array.from(ground.shifts, (s) => s.fixedAdults);
    this.minutes = Float64Array.from(ground.fixedMinutes);
    this.#count = Int32Array.from(ground.fixedOf, (on) => on.length);
    this.#maxMinutes = Float64Array.from(people, (p) => (p.maxHours === null ? Infinity : p.maxHours * 60));
    this.#maxShifts = Float64Array.from(people, (p) => p.maxShifts ?? Infinity);
  }

  has(unit: number, shift: number): boolean {
    return this.shiftsOf[unit]!.includes(shift);
  }

  /** Whether a unit can be put on a shift as things stand, leaving out what it would give up for it. */
  can(unit: number, shift: number, without = -1): boolean {
    const { units, shifts, conflicts, fixedOf, inARow, places } = this.ground;
    const row = shift * shifts.length;
    const at = places[unit * shifts.length + shift]!;
    if (at < 0) return false;
    const of = units[unit]!;
    if (this.filled[shift]! + of.sizes[at]! > shifts[shift]!.wished) return false;
    const own = this.shiftsOf[unit]!;
    for (let n = 0; n < own.length; n += 1) {
      const other = own[n]!;
      if (other === shift || (other !== without && conflicts[row + other])) return false;
    }
    for (const person of of.people) {
      const fixed = fixedOf[person]!;
      if (fixed.length && fixed.includes(shift)) continue;
      const freed = without >= 0 && !fixed.includes(without);
      if (this.#count[person]! + (freed ? 0 : 1) > this.#maxShifts[person]!) return false;
      const minutes = this.minutes[person]! + shifts[shift]!.minutes - (freed ? shifts[without]!.minutes : 0);
      if (minutes > this.#maxMinutes[person]!) return false;
      if (inARow[person]) {
        const others = own.filter((s) => s !== without);
        if (tooManyDays(this.ground, person, shift, others)) return false;
      }
    }
    for (const other of of.apart) if (this.has(other, shift)) return false;
    return of.adults[at]! || !of.minors[at]! || this.#adults[shift]! > 0;
  }

  /** Whether a unit can be taken off a shift: nobody under age stays on it alone. */
  canLeave(unit: number, shift: number): boolean {
    const { units, shifts, places } = this.ground;
    const of = units[unit]!;
    const at = places[unit * shifts.length + shift]!;
    // As long as another of age is there, nobody under age is left alone.
    if (!of.adults[at] || shifts[shift]!.fixedAdults > 0 || this.#adults[shift]! > 1) return true;
    let adults = false;
    let minors = false;
    for (const other of this.unitsOn[shift]!) {
      if (other === unit) continue;
      const there = units[other]!;
      const at = there.at.get(shift)!;
      adults ||= there.adults[at]!;
      minors ||= there.minors[at]!;
    }
    return adults || !minors;
  }

  /** Whether somebody of age is on a shift. */
  hasAdult(shift: number): boolean {
    return this.#adults[shift]! > 0;
  }

  put(unit: number, shift: number): void {
    this.shiftsOf[unit]!.push(shift);
    this.unitsOn[shift]!.push(unit);
    this.#change(unit, shift, 1);
  }

  take(unit: number, shift: number): void {
    remove(this.shiftsOf[unit]!, shift);
    remove(this.unitsOn[shift]!, unit);
    this.#change(unit, shift, -1);
  }

  #change(unit: number, shift: number, by: 1 | -1): void {
    const { units, shifts, fixedOf, places } = this.ground;
    const of = units[unit]!;
    const at = places[unit * shifts.length + shift]!;
    this.filled[shift]! += by * of.sizes[at]!;
    if (of.adults[at]) this.#adults[shift]! += by;
    for (const person of of.people) {
      if (fixedOf[person]!.includes(shift)) continue;
      this.minutes[person]! += by * shifts[shift]!.minutes;
      this.#count[person]! += by;
    }
  }

  /** Everything that was put, as unit and shift. */
  pairs(): [number, number][] {
    return this.shiftsOf.flatMap((shifts, unit) => shifts.map((s): [number, number] => [unit, s]));
  }

  /** Everybody on a shift, what is fixed too, by the ids of both. */
  assignments(): [person: string, shift: string][] {
    const { instance, fixedOf, units } = this.ground;
    const named = (person: number, shift: number): [string, string] => [
      instance.people[person]!.id,
      instance.shifts[shift]!.id,
    ];
    return [
      ...fixedOf.flatMap((on, person) => on.map((shift) => named(person, shift))),
      ...this.pairs().flatMap(([unit, shift]) =>
        units[unit]!.people.filter((person) => !fixedOf[person]!.includes(shift)).map((person) =>
          named(person, shift),
        ),
      ),
    ];
  }

  /** Takes over who is on what from pairs. */
  become(pairs: readonly (readonly [number, number])[]): void {
    for (const [unit, shift] of this.pairs()) this.take(unit, shift);
    for (const [unit, shift] of pairs) this.put(unit, shift);
  }
}

function remove(from: number[], what: number): void {
  const at = from.indexOf(what);
  from[at] = from.at(-1)!;
  from.pop();
}
