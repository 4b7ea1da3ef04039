import { type Days, dayNumber, runAround } from '#core/time/dayRuns.ts';
import { merged } from '#core/time/stretches.ts';
import { anyOn, daysOfShifts, type InARow } from './days.ts';
import type { RosterInstance } from './instance.ts';

/**
 * An instance as it is worked on: people and shifts by number, times in minutes. People who serve together are one unit,
 * put on shifts as one; everybody else is a unit by themselves.
 */
export interface Ground {
  instance: RosterInstance;
  shifts: readonly GroundShift[];
  units: readonly Unit[];
  /** Of which unit a person is, by the number of the person. */
  unitOf: readonly number[];
  /** Minutes of fixed shifts by person. */
  fixedMinutes: readonly number[];
  /** Fixed shifts by person. */
  fixedOf: readonly (readonly number[])[];
  /** Whether two shifts cannot be one person's, by `shift * shifts + other`. */
  conflicts: Uint8Array;
  /** The days of each shift, where somebody minds how many they serve in a row. */
  days: readonly Days[];
  /** By person, null of whoever does not mind. */
  inARow: readonly (InARow | null)[];
  /** Where among its shifts a unit has one, by `unit * shifts + shift`; −1 where it cannot be on it. Asked millions of times. */
  places: Int32Array;
  /** Units that can be on a shift, by shift. */
  candidates: readonly (readonly number[])[];
}

export interface GroundShift {
  start: number;
  end: number;
  minutes: number;
  least: number;
  wished: number;
  importance: number;
  place: string;
  /** How many are fixed on it, and how many of them are of age. */
  fixed: number;
  fixedAdults: number;
}

/** One or more people who are put on shifts as one. */
export interface Unit {
  people: readonly number[];
  /** Shifts they can be on, in order of their start. */
  shifts: readonly number[];
  /** How much they want each of those shifts, all of them together. */
  wishes: readonly number[];
  /** How many come to each of those shifts by it: whoever is fixed on it already does not count again. */
  sizes: readonly number[];
  /** Whether somebody of age is among those who come to each, and somebody under age. */
  adults: readonly boolean[];
  minors: readonly boolean[];
  /** Where in `shifts` a shift stands, by its number. */
  at: ReadonlyMap<number, number>;
  /** Units none of whom they are with. */
  apart: readonly number[];
  /** Whether two of them are to be both together and apart: they are put on nothing. */
  torn: boolean;
}

export const minutesAt = (instant: string): number => Date.parse(instant) / 60_000;

/** The time between two shifts in minutes; below zero where they overlap. */
export const gapBetween = (a: { start: number; end: number }, b: { start: number; end: number }): number =>
  Math.max(b.start - a.end, a.start - b.end);

/** Whether one person cannot be on both: they overlap, or there is less rest between them than the rules ask. */
export function conflict(
  a: { start: number; end: number },
  b: { start: number; end: number },
  rules: Pick<RosterInstance['rules'], 'restHours' | 'daily'>,
): boolean {
  const gap = gapBetween(a, b);
  if (gap < 0) return true;
  if (gap >= rules.restHours * 60) return false;
  const span = Math.max(a.end, b.end) - Math.min(a.start, b.start);
  return !rules.daily || span > (24 - rules.restHours) * 60;
}

/** Whether there is too little time between two shifts to get from the place of one to that of the other. */
export const tooFar = (
  a: Pick<GroundShift, 'start' | 'end' | 'place'>,
  b: Pick<GroundShift, 'start' | 'end' | 'place'>,
  rules: Pick<RosterInstance['rules'], 'placeMinutes'>,
): boolean =>
  a.place !== '' && b.place !== '' && a.place !== b.place && gapBetween(a, b) < rules.placeMinutes;

/** Everybody reachable from each through pairs: of whom the groups consist. */
function groupsOf(count: number, pairs: readonly (readonly [number, number])[]): number[][] {
  const root = Array.from({ length: count }, (_, at) => at);
  const find = (at: number): number => {
    let to = at;
    while (root[to] !== to) to = root[to]!;
    root[at] = to;
    return to;
  };
  for (const [a, b] of pairs) root[find(a)] = find(b);
  const groups = new Map<number, number[]>();
  for (let at = 0; at < count; at += 1) {
    const to = find(at);
    groups.set(to, [...(groups.get(to) ?? []), at]);
  }
  return [...groups.values()];
}

/** Prepares an instance that has no problems. */
export function groundOf(instance: RosterInstance): Ground {
  const { people, rules } = instance;
  const personAt = new Map(people.map((p, at) => [p.id, at]));
  const shiftAt = new Map(instance.shifts.map((s, at) => [s.id, at]));
  const fixedOn = people.map(() => new Set<number>());
  for (const [person, shift] of instance.fixed) fixedOn[personAt.get(person)!]!.add(shiftAt.get(shift)!);
  const shifts: GroundShift[] = instance.shifts.map((s, at) => {
    const on = people.filter((_, p) => fixedOn[p]!.has(at));
    const start = minutesAt(s.start);
    const end = minutesAt(s.end);
    return {
      start,
      end,
      minutes: end - start,
      least: s.least,
      wished: s.wished,
      importance: s.importance,
      place: s.place,
      fixed: on.length,
      fixedAdults: on.filter((p) => !p.minor).length,
    };
  });
  const conflicts = new Uint8Array(shifts.length * shifts.length);
  for (let a = 0; a < shifts.length; a += 1)
    for (let b = a + 1; b < shifts.length; b += 1)
      if (conflict(shifts[a]!, shifts[b]!, rules) || tooFar(shifts[a]!, shifts[b]!, rules)) {
        conflicts[a * shifts.length + b] = 1;
        conflicts[b * shifts.length + a] = 1;
      }
  const fixedOf = fixedOn.map((on) => [...on]);
  const fixedMinutes = fixedOf.map((on) => on.reduce((sum, s) => sum + shifts[s]!.minutes, 0));
  const days = daysOfShifts(instance);
  const inARow = people.map((p, at): InARow | null => {
    if (p.maxInARow === null) return null;
    const taken = new Set(p.otherDays.map(dayNumber));
    for (const s of fixedOf[at]!)
      for (let day = days[s]!.first; day <= days[s]!.last; day += 1) taken.add(day);
    return { most: p.maxInARow, taken };
  });
  const inOrder = shifts.map((_, at) => at).sort((a, b) => shifts[a]!.start - shifts[b]!.start || a - b);
  const pairsOf = (field: 'together' | 'apart') =>
    people.flatMap((p, at) => p[field].map((id) => [at, personAt.get(id)!] as const));

  const able = people.map((p, at) => {
    const skills = new Set(p.skills);
    const stretches = p.available && merged(p.available.map(([a, b]) => [minutesAt(a), minutesAt(b)]));
    return (shift: number): boolean => {
      const { start, end, minutes } = shifts[shift]!;
      if (fixedOn[at]!.has(shift)) return true;
      return (
        instance.shifts[shift]!.needs.every((need) => skills.has(need)) &&
        (!stretches || stretches.some(([from, to]) => from <= start && end <= to)) &&
        (p.maxHours === null || fixedMinutes[at]! + minutes <= p.maxHours * 60) &&
        (p.maxShifts === null || fixedOf[at]!.length < p.maxShifts) &&
        fixedOf[at]!.every((other) => !conflicts[shift * shifts.length + other]) &&
        !tooManyDays({ days, inARow }, at, shift, [])
      );
    };
  });

  const groups = groupsOf(people.length, pairsOf('together'));
  const unitOf: number[] = [];
  for (const [unit, group] of groups.entries()) for (const person of group) unitOf[person] = unit;
  const apart = groups.map(() => new Set<number>());
  for (const [a, b] of pairsOf('apart')) {
    apart[unitOf[a]!]!.add(unitOf[b]!);
    apart[unitOf[b]!]!.add(unitOf[a]!);
  }
  const units = groups.map((group, unit): Unit => {
    const coming = (shift: number) => group.filter((p) => !fixedOn[p]!.has(shift));
    const torn = apart[unit]!.has(unit);
    const fixedApart = (shift: number) =>
      [...apart[unit]!].some((other) => groups[other]!.some((p) => fixedOn[p]!.has(shift)));
    const own = inOrder.filter(
      (shift) =>
        !torn &&
        shifts[shift]!.wished > shifts[shift]!.fixed &&
        coming(shift).length > 0 &&
        shifts[shift]!.fixed + coming(shift).length <= shifts[shift]!.wished &&
        !fixedApart(shift) &&
        group.every((p) => able[p]!(shift)),
    );
    const wish = (person: number, shift: number) => {
      const { wishes } = people[person]!;
      const { role } = instance.shifts[shift]!;
      return Object.hasOwn(wishes, role) ? wishes[role]! : 0;
    };
    return {
      people: group,
      shifts: own,
      wishes: own.map((s) => coming(s).reduce((sum, p) => sum + wish(p, s), 0)),
      sizes: own.map((s) => coming(s).length),
      adults: own.map((s) => coming(s).some((p) => !people[p]!.minor)),
      minors: own.map((s) => coming(s).some((p) => people[p]!.minor)),
      at: new Map(own.map((s, n) => [s, n])),
      apart: [...apart[unit]!].filter((other) => other !== unit),
      torn,
    };
  });
  const candidates = shifts.map((_, shift) => units.flatMap((unit, at) => (unit.at.has(shift) ? [at] : [])));
  const places = new Int32Array(units.length * shifts.length).fill(-1);
  for (const [at, unit] of units.entries())
    for (const [n, shift] of unit.shifts.entries()) places[at * shifts.length + shift] = n;
  return {
    instance,
    shifts,
    units,
    unitOf,
    fixedMinutes,
    fixedOf,
    conflicts,
    days,
    inARow,
    places,
    candidates,
  };
}

/**
 * By how many days a shift would be too many in a row for a person who has some others beside what is fixed; 0 where it is not, or
 * where they do not mind.
 */
export function tooManyDays(
  { days, inARow }: Pick<Ground, 'days' | 'inARow'>,
  person: number,
  shift: number,
  others: readonly number[],
): number {
  const wants = inARow[person];
  if (!wants) return 0;
  const run = runAround(days[shift]!, (day) => wants.taken.has(day) || anyOn(days, others, day));
  return Math.max(0, run - wants.most);
}
