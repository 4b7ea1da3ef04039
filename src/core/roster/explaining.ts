import { merged } from '#core/time/stretches.ts';
import { conflict, type Ground, gapBetween, minutesAt, tooFar, tooManyDays } from './ground.ts';
import type { Standing } from './standing.ts';

/**
 * What keeps somebody from a shift. `busy`: they are on another one then. `far`: they are at another place right before or after. `rest`: too little rest beside one they are on.
 * `hours`, `shifts` and `days` (in a row): their limits. `alone`: under age, with nobody of age there.
 */
export const obstacleKinds = [
  'busy',
  'far',
  'rest',
  'shifts',
  'hours',
  'days',
  'available',
  'apart',
  'alone',
  'skill',
] as const;
export type ObstacleKind = (typeof obstacleKinds)[number];

/** What some change could put right. */
type Movable = Exclude<ObstacleKind, 'busy' | 'far'>;
const isMovable = (kind: ObstacleKind | undefined): kind is Movable =>
  kind !== undefined && kind !== 'busy' && kind !== 'far';

/** What would have to change for one unit to come: how much of it, in hours, shifts or nothing that is counted. */
interface Obstacle {
  kind: ObstacleKind;
  /** Hours or shifts beyond what is allowed; 1 where it is not counted. */
  by: number;
}

/** A change of one rule or of what some people said, and what it would bring. */
export interface Change {
  kind: Movable;
  /** Hours of rest as they would have to be; hours, shifts or days in a row more than people said, at most; hours more they are there. */
  to: number;
  people: string[];
  /** How many of the missing places it would fill. */
  fills: number;
}

/** A shift that has fewer than are needed, or than are wished, and why. */
export interface Unfilled {
  shift: string;
  /** Places short of what it takes at least; where it has those, of what is wished. */
  missing: number;
  wish: boolean;
  /** How many people each thing keeps away, without those who only keep what they have; several can keep one away. */
  why: Partial<Record<ObstacleKind, number>>;
  /** Null where no single change would bring anybody. */
  cheapest: Change | null;
}

/** What a change costs people, to compare one with another: hours they would be asked for more, or rest less. */
const costOf = (kind: ObstacleKind, by: number): number =>
  ({
    rest: by,
    hours: by,
    shifts: 3 * by,
    days: 3 * by,
    available: by,
    apart: 12,
    alone: 12,
    skill: 24,
    busy: Infinity,
    far: Infinity,
  })[kind];

/** Why each shift that is short is short, and the smallest single change that would fill it. */
export function explain(standing: Standing): Unfilled[] {
  const { ground } = standing;
  return ground.shifts.flatMap((s, at) => {
    const filled = standing.filled[at]!;
    const missing = filled < s.least ? s.least - filled : s.wished - filled;
    if (missing <= 0) return [];
    const why: Partial<Record<ObstacleKind, number>> = {};
    const single: { unit: number; kind: Movable; by: number }[] = [];
    for (const unit of ground.units.keys()) {
      const coming = ground.units[unit]!.people.filter((p) => !ground.fixedOf[p]!.includes(at));
      if (!coming.length || standing.has(unit, at)) continue;
      if (coming.some((p) => ground.instance.people[p]!.keeps)) continue;
      const obstacles = obstaclesOf(standing, unit, at);
      const kinds = new Set(obstacles.map((o) => o.kind));
      for (const kind of kinds) why[kind] = (why[kind] ?? 0) + coming.length;
      const [kind] = kinds;
      if (kinds.size === 1 && isMovable(kind) && coming.length <= missing)
        single.push({ unit, kind, by: Math.max(...obstacles.map((o) => o.by)) });
    }
    return [
      {
        shift: ground.instance.shifts[at]!.id,
        missing,
        wish: filled >= s.least,
        why,
        cheapest: cheapestOf(ground, at, missing, single),
      },
    ];
  });
}

function cheapestOf(
  ground: Ground,
  shift: number,
  missing: number,
  single: readonly { unit: number; kind: Movable; by: number }[],
): Change | null {
  const { people, rules } = ground.instance;
  let best: (Change & { cost: number }) | null = null;
  for (const kind of new Set(single.map((o) => o.kind))) {
    const those = single.filter((o) => o.kind === kind).sort((a, b) => a.by - b.by);
    // As far as has to be gone for all that is missing, or for everybody it would bring.
    let there = 0;
    let by = 0;
    for (const one of those) {
      if (there >= missing) break;
      there += ground.units[one.unit]!.people.filter((p) => !ground.fixedOf[p]!.includes(shift)).length;
      by = one.by;
    }
    const change = {
      kind,
      to: kind === 'rest' ? rules.restHours - by : by,
      people: those
        .filter((o) => o.by <= by)
        .flatMap((o) => ground.units[o.unit]!.people.map((p) => people[p]!.id)),
      fills: Math.min(missing, there),
      cost: costOf(kind, by),
    };
    if (!best || change.fills > best.fills || (change.fills === best.fills && change.cost < best.cost))
      best = change;
  }
  if (!best) return null;
  const { cost: _, ...change } = best;
  return change;
}

/** Everything that keeps the people of a unit from a shift as things stand. */
function obstaclesOf(standing: Standing, unit: number, shift: number): Obstacle[] {
  const { ground } = standing;
  const { units, shifts, instance, fixedOf } = ground;
  const of = units[unit]!;
  const wanted = shifts[shift]!;
  const out: Obstacle[] = [];
  for (const p of of.people) {
    if (fixedOf[p]!.includes(shift)) continue;
    const person = instance.people[p]!;
    if (!instance.shifts[shift]!.needs.every((need) => person.skills.includes(need)))
      out.push({ kind: 'skill', by: 1 });
    const outside = minutesOutside(person.available, wanted.start, wanted.end);
    if (outside > 0) out.push({ kind: 'available', by: outside / 60 });
    for (const other of new Set([...fixedOf[p]!, ...standing.shiftsOf[unit]!])) {
      if (!ground.conflicts[shift * shifts.length + other]) continue;
      const gap = gapBetween(wanted, shifts[other]!);
      const far = tooFar(wanted, shifts[other]!, instance.rules);
      if (gap < 0) out.push({ kind: 'busy', by: 1 });
      else if (far) out.push({ kind: 'far', by: 1 });
      if (gap >= 0 && conflict(wanted, shifts[other]!, instance.rules))
        out.push({
          kind: 'rest',
          by: instance.rules.restHours - restThatFits(wanted, shifts[other]!, instance.rules.daily),
        });
    }
    const over = (standing.minutes[p]! + wanted.minutes) / 60 - (person.maxHours ?? Infinity);
    if (over > 0) out.push({ kind: 'hours', by: over });
    const count =
      fixedOf[p]!.length + standing.shiftsOf[unit]!.filter((s) => !fixedOf[p]!.includes(s)).length;
    if (count + 1 > (person.maxShifts ?? Infinity))
      out.push({ kind: 'shifts', by: count + 1 - person.maxShifts! });
    const days = tooManyDays(ground, p, shift, standing.shiftsOf[unit]!);
    if (days > 0) out.push({ kind: 'days', by: days });
  }
  const apartThere = of.apart.some(
    (other) => standing.has(other, shift) || units[other]!.people.some((p) => fixedOf[p]!.includes(shift)),
  );
  if (of.torn || apartThere) out.push({ kind: 'apart', by: 1 });
  const coming = of.people.filter((p) => !fixedOf[p]!.includes(shift)).map((p) => instance.people[p]!);
  if (coming.every((p) => p.minor) && !standing.hasAdult(shift)) out.push({ kind: 'alone', by: 1 });
  return out;
}

/** The most hours of rest the rules could ask with two shifts both one person's, when they do not overlap. */
function restThatFits(
  a: { start: number; end: number },
  b: { start: number; end: number },
  daily: boolean,
): number {
  const gap = gapBetween(a, b) / 60;
  const span = (Math.max(a.end, b.end) - Math.min(a.start, b.start)) / 60;
  return daily ? Math.max(gap, 24 - span) : gap;
}

/** By how many minutes a shift lies outside the stretch of time somebody is there that comes nearest to it. */
function minutesOutside(
  available: readonly (readonly [string, string])[] | null,
  start: number,
  end: number,
): number {
  if (!available) return 0;
  return Math.min(
    end - start,
    ...merged(available.map(([from, to]) => [minutesAt(from), minutesAt(to)])).map(
      ([from, to]) => Math.max(0, from - start) + Math.max(0, end - to),
    ),
  );
}
