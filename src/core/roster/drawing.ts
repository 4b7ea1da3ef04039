import { numbersFrom } from './improving.ts';
import type { RosterInstance, RosterPerson, RosterShift } from './instance.ts';

/** The first day of the instances that tests and the bench are made of. */
const dayOne = Date.parse('2026-08-08T00:00:00Z');
/** So many hours into it. */
export const at = (hours: number): string => new Date(dayOne + hours * 3_600_000).toISOString();

export const person = (id: string, of: Partial<RosterPerson> = {}): RosterPerson => ({
  id,
  skills: [],
  available: null,
  maxHours: null,
  maxShifts: null,
  maxInARow: null,
  otherDays: [],
  wishes: {},
  together: [],
  apart: [],
  minor: false,
  ...of,
});

export const shift = (id: string, from: number, to: number, of: Partial<RosterShift> = {}): RosterShift => ({
  id,
  role: 'Landing',
  place: '',
  start: at(from),
  end: at(to),
  least: 1,
  wished: 1,
  importance: 1,
  needs: [],
  ...of,
});

export const roster = (
  people: readonly RosterPerson[],
  shifts: readonly RosterShift[],
  of: Partial<RosterInstance> = {},
): RosterInstance => ({
  people,
  shifts,
  fixed: [],
  rules: { restHours: 0, daily: false, placeMinutes: 0, zone: 'UTC' },
  ...of,
});

export interface Drawn {
  /** How many a shift wishes at most. */
  wished?: number;
  people: number;
  shifts: number;
  days: number;
  /** How likely somebody is there on a day, is under age, has company they want or do not want. */
  there?: number;
  minors?: number;
  pairs?: number;
  fixed?: number;
  /** How likely somebody wants no more than one or two days in a row. */
  inARow?: number;
  /** Minutes between two of three places, at one of which each shift is then. */
  placeMinutes?: number;
}

/** An instance drawn by a seed: three days by the water, roles that need something, people with wishes and limits. */
export function drawn(seed: number, of: Drawn): RosterInstance {
  const random = numbersFrom(seed);
  const int = (from: number, to: number) => from + Math.floor(random() * (to - from + 1));
  const any = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)]!;
  const roles = ['Landing', 'Kitchen', 'First aid', 'Car park', 'Safety boat', 'Gate'];
  const needed: Record<string, string[]> = {
    Kitchen: ['food'],
    'First aid': ['first aid'],
    'Safety boat': ['helm'],
  };
  const shifts = Array.from({ length: of.shifts }, (_, n) => {
    const role = any(roles);
    const from = int(0, of.days - 1) * 24 + int(14, 42) / 2;
    const wished = int(1, of.wished ?? 3);
    return shift(`s${n}`, from, from + any([2, 3, 4, 5]), {
      role,
      least: int(0, wished),
      wished,
      importance: any([1, 1, 2, 5]),
      needs: needed[role] ?? [],
    });
  });
  const people = Array.from({ length: of.people }, (_, n) =>
    person(`p${n}`, {
      skills: ['food', 'first aid', 'helm'].filter(() => random() < 0.4),
      available: Array.from({ length: of.days }, (_, day) => day).flatMap((day): [string, string][] => {
        if (random() >= (of.there ?? 0.7)) return [];
        const from = day * 24 + any([6, 6, 12]);
        return [[at(from), at(from + any([8, 12, 20]))]];
      }),
      maxHours: any([null, 6, 8, 12]),
      maxShifts: any([null, 1, 2, 3]),
      wishes: Object.fromEntries(roles.flatMap((role) => (random() < 0.3 ? [[role, int(-1, 3)]] : []))),
      minor: random() < (of.minors ?? 0.2),
    }),
  );
  if (of.placeMinutes)
    for (const [n, s] of shifts.entries()) shifts[n] = { ...s, place: any(['', 'Jetty', 'Barn', 'Gate']) };
  // Drawn last and only where asked for, so that what was drawn before stays as it is.
  if (of.inARow)
    for (const [n, p] of people.entries())
      if (random() < of.inARow)
        people[n] = { ...p, maxInARow: int(1, 2), otherDays: random() < 0.2 ? ['2026-08-07'] : [] };
  const pair = (field: 'together' | 'apart') => {
    const [a, b] = [int(0, people.length - 1), int(0, people.length - 1)];
    if (a !== b) people[a] = { ...people[a]!, [field]: [...people[a]![field], people[b]!.id] };
  };
  for (let n = 0; n < (of.pairs ?? 1); n += 1) {
    pair('together');
    pair('apart');
  }
  const fixed = Array.from({ length: of.fixed ?? 0 }, (): [string, string] => [
    any(people).id,
    any(shifts).id,
  ]);
  return roster(people, shifts, {
    fixed,
    rules: {
      restHours: any([0, 8, 11]),
      daily: random() < 0.5,
      placeMinutes: of.placeMinutes ?? 0,
      zone: 'UTC',
    },
  });
}
