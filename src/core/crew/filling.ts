import { fold } from '#core/contacts/names.ts';
import { groundOf } from '#core/roster/ground.ts';
import type { RosterInstance } from '#core/roster/instance.ts';
import { fewestChanges } from '#core/roster/repairing.ts';
import { Standing } from '#core/roster/standing.ts';
import { type CalendarDate, type Instant, plusMinutes, type WallTime, type Zone } from '#core/time/clock.ts';
import { ageOn, shiftDate } from '#core/time/dates.ts';
import { dateOf, instantOf } from '#core/time/wallTime.ts';
import type { HeldSkill, RoleAsks } from './against.ts';
import type { Availability } from './availability.ts';
import { instantsBetween } from './availableAt.ts';
import { type Importance, weightOf } from './importance.ts';
import { isNightly, type Limits } from './limits.ts';

/** Somebody who was accepted, or is on a shift already, as far as it decides where they can be put. */
export interface Filler {
  contactId: string;
  birthDate: CalendarDate | null;
  skills: readonly HeldSkill[];
  /** Whether they can be put on anything more; else they only keep what they have. */
  accepted: boolean;
  available: Availability | null;
  limits: Limits;
  /** What they have of what their application is about, beside these shifts. */
  outside: { shifts: number; hours: number; days: readonly CalendarDate[] };
  /** How much they want each role, by its name. */
  wishes: Readonly<Record<string, number>>;
  /** Where they have to be elsewhere: other shifts, seats of their own. */
  elsewhere: readonly { startsAt: Instant; endsAt: Instant }[];
}

/** A shift to be filled. */
export interface OpenShift {
  id: string;
  role: string;
  place: string;
  startsLocal: WallTime;
  endsLocal: WallTime;
  startsAt: Instant;
  endsAt: Instant;
  least: number;
  wished: number;
  importance: Importance;
  asks: Pick<RoleAsks, 'fromAge' | 'needs'>;
  /** Who gave it back, or was taken off: they are not put on it again. */
  not: readonly string[];
}

export interface FillingRules {
  restHours: number;
  placeMinutes: number;
  ageOfMajority: number;
  zone: Zone;
}

type Span = [from: Instant, to: Instant];

/** Stretches without what lies within others. */
function without(stretches: readonly Span[], cut: readonly Span[]): Span[] {
  let left = [...stretches];
  for (const [from, to] of cut)
    left = left.flatMap(([a, b]): Span[] =>
      to <= a || from >= b
        ? [[a, b]]
        : [...(a < from ? [[a, from] as Span] : []), ...(to < b ? [[to, b] as Span] : [])],
    );
  return left;
}

/** The hours of each day in which somebody wants to be done, from the evening before the first day to the last. */
function lateHours(latest: string, first: CalendarDate, last: CalendarDate, zone: Zone): Span[] {
  const spans: Span[] = [];
  for (let day = shiftDate(first, -1); day <= last; day = shiftDate(day, 1)) {
    const morning = shiftDate(day, 1);
    spans.push([
      instantOf(`${isNightly(latest) ? morning : day}T${latest}`, zone),
      instantOf(`${morning}T05:00`, zone),
    ]);
  }
  return spans;
}

/** What somebody has to be able to do on the days of a shift, as words a roster compares: a skill that holds until then, an age. */
const needOf = {
  skill: (id: string, day: CalendarDate) => `skill ${id} on ${day}`,
  age: (from: number, day: CalendarDate) => `age ${from} on ${day}`,
  may: (shift: string) => `may ${shift}`,
};

/**
 * The shifts of an event as a roster to be worked out: what is agreed stays, and whoever was accepted is put on what is left, within
 * what they said, what is on record of what they can do, and where they have to be elsewhere. A skill that nobody has seen counts as
 * missing where it is a certificate; an age that nobody knows, too.
 */
export function rosterOf(
  people: readonly Filler[],
  shifts: readonly OpenShift[],
  agreed: readonly (readonly [contactId: string, shiftId: string])[],
  pairs: readonly { contactId: string; otherId: string; kind: 'together' | 'apart' }[],
  rules: FillingRules,
): RosterInstance {
  const { zone, restHours, placeMinutes } = rules;
  const known = new Set(people.map((p) => p.contactId));
  const begins = shifts.map((s) => s.startsAt).sort()[0] ?? '';
  const ends =
    shifts
      .map((s) => s.endsAt)
      .sort()
      .at(-1) ?? '';
  const [first, last] = shifts.length ? [dateOf(begins, zone), dateOf(ends, zone)] : ['', ''];
  const whole: Span[] = shifts.length ? [[begins, ends]] : [];
  const needs = (s: OpenShift): string[] => [
    ...s.asks.needs.map((n) => needOf.skill(n.id, s.endsLocal.slice(0, 10))),
    ...(s.asks.fromAge === null ? [] : [needOf.age(s.asks.fromAge, s.startsLocal.slice(0, 10))]),
    ...(s.not.length ? [needOf.may(s.id)] : []),
  ];
  const has = (p: Filler, s: OpenShift): string[] => {
    const [firstDay, lastDay] = [s.startsLocal.slice(0, 10), s.endsLocal.slice(0, 10)];
    return [
      ...s.asks.needs
        .filter((n) =>
          p.skills.some(
            (h) => h.skillId === n.id && (!h.until || h.until >= lastDay) && (!n.certificate || h.seen),
          ),
        )
        .map((n) => needOf.skill(n.id, lastDay)),
      ...(s.asks.fromAge !== null && p.birthDate && ageOn(p.birthDate, firstDay) >= s.asks.fromAge
        ? [needOf.age(s.asks.fromAge, firstDay)]
        : []),
      ...(s.not.length && !s.not.includes(p.contactId) ? [needOf.may(s.id)] : []),
    ];
  };
  const rest = restHours * 60;
  const there = (p: Filler): Span[] => {
    if (!p.accepted || !shifts.length) return [];
    const said = p.available ? instantsBetween(p.available, first, last, zone) : whole;
    return without(said, [
      ...p.elsewhere.map(
        ({ startsAt, endsAt }): Span => [plusMinutes(startsAt, -rest), plusMinutes(endsAt, rest)],
      ),
      ...(p.limits.latest === null ? [] : lateHours(p.limits.latest, first, last, zone)),
    ]);
  };
  const left = (most: number | null, has: number) => (most === null ? null : Math.max(0, most - has));
  const with_ = (id: string, kind: 'together' | 'apart') =>
    pairs
      .filter((x) => x.kind === kind && known.has(x.contactId) && known.has(x.otherId))
      .flatMap((x) => (x.contactId === id ? [x.otherId] : x.otherId === id ? [x.contactId] : []));
  return {
    people: people.map((p) => ({
      id: p.contactId,
      skills: [...new Set(shifts.flatMap((s) => has(p, s)))],
      available: there(p),
      maxHours: left(p.limits.hours, p.outside.hours),
      maxShifts: left(p.limits.shifts, p.outside.shifts),
      maxInARow: p.limits.inARow,
      otherDays: p.outside.days,
      wishes: p.wishes,
      // Whoever only keeps what they have draws nobody along.
      together: p.accepted
        ? with_(p.contactId, 'together').filter((id) => people.find((o) => o.contactId === id)!.accepted)
        : [],
      apart: with_(p.contactId, 'apart'),
      keeps: !p.accepted,
      minor: Boolean(p.birthDate && shifts.length && ageOn(p.birthDate, first) < rules.ageOfMajority),
    })),
    shifts: shifts.map((s) => ({
      id: s.id,
      role: s.role,
      place: fold(s.place),
      start: s.startsAt,
      end: s.endsAt,
      least: s.least,
      wished: s.wished,
      importance: weightOf[s.importance],
      needs: needs(s),
    })),
    fixed: agreed,
    rules: { restHours, daily: true, placeMinutes, zone },
  };
}

/** One step of a repair: somebody comes to a shift, from another one or from none. */
export interface RepairStep {
  contactId: string;
  to: string;
  from: string | null;
}

/**
 * Fills one place of a shift with the fewest changes to other people: whoever is free comes; else somebody comes from a shift whose
 * place another takes, and so on. Who is on something against the rules stays where they are. Null where nothing fills it.
 */
export function repairOf(instance: RosterInstance, shiftId: string): RepairStep[] | null {
  let stays: (readonly [string, string])[] = [];
  for (;;) {
    const ground = groundOf({ ...instance, fixed: stays });
    const standing = new Standing(ground);
    const personAt = new Map(instance.people.map((p, at) => [p.id, at]));
    const shiftAt = new Map(instance.shifts.map((s, at) => [s.id, at]));
    const amiss: (readonly [string, string])[] = [];
    for (const pair of instance.fixed) {
      if (stays.includes(pair)) continue;
      const unit = ground.unitOf[personAt.get(pair[0])!]!;
      const shift = shiftAt.get(pair[1])!;
      if (standing.has(unit, shift)) continue;
      if (standing.can(unit, shift)) standing.put(unit, shift);
      else amiss.push(pair);
    }
    if (amiss.length) {
      stays = [...stays, ...amiss];
      continue;
    }
    const at = shiftAt.get(shiftId);
    const steps = at === undefined ? null : fewestChanges(standing, at);
    const idOf = (shift: number) => instance.shifts[shift]!.id;
    if (!steps) return null;
    return steps.flatMap(({ unit, to, from }) =>
      ground.units[unit]!.people.map((person) => ({
        contactId: instance.people[person]!.id,
        to: idOf(to),
        from: from === null ? null : idOf(from),
      })),
    );
  }
}
