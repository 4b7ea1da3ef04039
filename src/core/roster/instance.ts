import type { CalendarDate, Instant, Zone } from '#core/time/clock.ts';

/** Somebody who can be put on shifts. */
export interface RosterPerson {
  id: string;
  skills: readonly string[];
  /** When they can serve, as stretches of time; those that overlap or touch are one. Null: always. */
  available: readonly (readonly [Instant, Instant])[] | null;
  /** The most they serve in all, with what is fixed. Null: no limit. */
  maxHours: number | null;
  maxShifts: number | null;
  /** The most days in a row they serve on, with what is fixed and `otherDays`. Null: no limit. */
  maxInARow: number | null;
  /** Days on which they serve elsewhere. */
  otherDays: readonly CalendarDate[];
  /** How much they want a role, by its name; a role that is not named counts 0, one they do not want less. */
  wishes: Readonly<Record<string, number>>;
  /** People they serve with: on the same shifts or on none. Holds both ways, whoever named the other. */
  together: readonly string[];
  /** People they are never on one shift with. Holds both ways. */
  apart: readonly string[];
  /** Under age: on a shift only where somebody of age is on it too. */
  minor: boolean;
  /** They stay on what is fixed, and nothing else is asked of them: no gap is explained by them. */
  keeps?: boolean;
}

/** Something that has to be done at one place for some time. */
export interface RosterShift {
  id: string;
  role: string;
  place: string;
  start: Instant;
  end: Instant;
  /** How many it takes at least, and how many are wished; never more than that are proposed. */
  least: number;
  wished: number;
  /** What one place of it counts. */
  importance: number;
  /** Skills that everybody on it has. */
  needs: readonly string[];
}

export interface RosterRules {
  /** Hours of rest between any two shifts of a person. 0: shifts may touch. */
  restHours: number;
  /**
   * Rest is asked once in 24 hours, not after every shift: two shifts need none between them where both lie within
   * 24 − restHours hours, so that the rest is left of that day.
   */
  daily: boolean;
  /** Minutes that lie between two shifts of a person at places with other names, at least; none where one names no place. */
  placeMinutes: number;
  /** By whose clock days are told apart. */
  zone: Zone;
}

/** Who there is, what there is to do, and what is agreed already. */
export interface RosterInstance {
  people: readonly RosterPerson[];
  shifts: readonly RosterShift[];
  /** Who is on which shift already, as ids. It stays, whatever it breaks. */
  fixed: readonly (readonly [person: string, shift: string])[];
  rules: RosterRules;
}

/** What is wrong with an instance, and where: a path into it, with a code. */
export interface RosterProblem {
  path: string;
  code:
    | 'id-twice'
    | 'no-such-person'
    | 'no-such-shift'
    | 'ends-before-it-starts'
    | 'wished-below-least'
    | 'with-themselves';
}

const repeated = (of: readonly { id: string }[], path: string): RosterProblem[] => {
  const seen = new Set<string>();
  return of.flatMap(({ id }, at) => {
    if (seen.has(id)) return [{ path: `${path}.${at}.id`, code: 'id-twice' as const }];
    seen.add(id);
    return [];
  });
};

/** What does not go together in an instance; empty where it can be worked on. */
export function problemsWithRoster(instance: RosterInstance): RosterProblem[] {
  const people = new Set(instance.people.map((p) => p.id));
  const shifts = new Set(instance.shifts.map((s) => s.id));
  return [
    ...repeated(instance.people, 'people'),
    ...repeated(instance.shifts, 'shifts'),
    ...instance.people.flatMap((p, at) => [
      ...(['together', 'apart'] as const).flatMap((field) =>
        p[field].flatMap((id, n): RosterProblem[] => {
          const path = `people.${at}.${field}.${n}`;
          if (id === p.id) return [{ path, code: 'with-themselves' }];
          return people.has(id) ? [] : [{ path, code: 'no-such-person' }];
        }),
      ),
      ...(p.available ?? []).flatMap(([from, to], n): RosterProblem[] =>
        Date.parse(to) > Date.parse(from)
          ? []
          : [{ path: `people.${at}.available.${n}`, code: 'ends-before-it-starts' }],
      ),
    ]),
    ...instance.shifts.flatMap((s, at): RosterProblem[] => [
      ...(Date.parse(s.end) > Date.parse(s.start)
        ? []
        : [{ path: `shifts.${at}.end`, code: 'ends-before-it-starts' } as const]),
      ...(s.wished >= s.least ? [] : [{ path: `shifts.${at}.wished`, code: 'wished-below-least' } as const]),
    ]),
    ...instance.fixed.flatMap(([person, shift], at): RosterProblem[] => [
      ...(people.has(person) ? [] : [{ path: `fixed.${at}.0`, code: 'no-such-person' } as const]),
      ...(shifts.has(shift) ? [] : [{ path: `fixed.${at}.1`, code: 'no-such-shift' } as const]),
    ]),
  ];
}
