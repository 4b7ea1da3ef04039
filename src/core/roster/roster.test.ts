import fc from 'fast-check';
import { expect, test } from 'vitest';
import { merged } from '#core/time/stretches.ts';
import { broken } from './broken.ts';
import { allColumns, bestColumns } from './columns.ts';
import { at, drawn, person, roster, shift } from './drawing.ts';
import { explain } from './explaining.ts';
import { greedy } from './greedy.ts';
import { conflict, groundOf } from './ground.ts';
import { improve, numbersFrom } from './improving.ts';
import { problemsWithRoster, type RosterInstance } from './instance.ts';
import { fewestChanges, take } from './repairing.ts';
import { compareScores, scoreOf } from './score.ts';
import { Standing } from './standing.ts';
import { gapOf, worthOf } from './worth.ts';

const instances = fc
  .record({
    seed: fc.integer({ min: 1, max: 1e6 }),
    people: fc.integer({ min: 1, max: 25 }),
    shifts: fc.integer({ min: 1, max: 20 }),
    fixed: fc.integer({ min: 0, max: 4 }),
    days: fc.integer({ min: 2, max: 4 }),
    inARow: fc.constantFrom(0, 0.6),
    placeMinutes: fc.constantFrom(0, 0, 45),
  })
  .map(({ seed, ...of }) => drawn(seed, { ...of, pairs: 3 }));

test('availability that overlaps or touches is one stretch', () => {
  expect(
    merged([
      [5, 7],
      [1, 3],
      [3, 4],
      [6, 9],
    ]),
  ).toEqual([
    [1, 4],
    [5, 9],
  ]);
  const two: [string, string][] = [
    [at(8), at(11)],
    [at(10), at(14)],
  ];
  const ground = groundOf(roster([person('a', { available: two })], [shift('s', 9, 13), shift('t', 9, 15)]));
  expect(ground.units[0]!.shifts).toEqual([0]);
});

test('rest is asked after every shift, or once a day', () => {
  const of = (from: number, to: number) => ({ start: from * 60, end: to * 60 });
  const always = { restHours: 10, daily: false };
  const daily = { restHours: 10, daily: true };
  expect(conflict(of(8, 12), of(11, 13), { restHours: 0, daily: false })).toBe(true);
  expect(conflict(of(8, 12), of(12, 13), { restHours: 0, daily: false })).toBe(false);
  expect(conflict(of(8, 12), of(13, 17), always)).toBe(true);
  expect(conflict(of(8, 12), of(22, 23), always)).toBe(false);
  // 8 to 17 leaves more than ten hours of that day; 8 to 23 does not, nor does a night between 23 and 5.
  expect(conflict(of(8, 12), of(13, 17), daily)).toBe(false);
  expect(conflict(of(8, 12), of(19, 23), daily)).toBe(true);
  expect(conflict(of(18, 23), of(29, 33), daily)).toBe(true);
  expect(conflict(of(20, 23), of(33, 37), daily)).toBe(false);
});

test('from one place to another there is time; where a shift names none, none is needed', () => {
  const shifts = [
    shift('jetty', 8, 10, { place: 'Jetty', importance: 9 }),
    shift('barn', 10, 12, { place: 'Barn' }),
    shift('gate', 10.5, 12, { place: 'Gate' }),
    shift('round', 10, 10.25),
  ];
  const rules = { restHours: 0, daily: false, placeMinutes: 30, zone: 'UTC' };
  const standing = greedy(groundOf(roster([person('ada')], shifts, { rules })));
  expect(
    standing
      .assignments()
      .map(([, s]) => s)
      .sort(),
  ).toEqual(['gate', 'jetty', 'round']);
  expect(explain(standing)[0]).toMatchObject({ shift: 'barn', cheapest: null });
  const barnOnly = greedy(groundOf(roster([person('ada')], shifts.slice(0, 2), { rules })));
  expect(explain(barnOnly)[0]).toMatchObject({ shift: 'barn', why: { far: 1 }, cheapest: null });
});

test('what does not go together is named where it stands', () => {
  const instance = roster(
    [person('a', { together: ['a'], apart: ['z'] }), person('a', { available: [[at(5), at(5)]] })],
    [shift('s', 5, 4), shift('t', 1, 2, { least: 3, wished: 2 })],
    {
      fixed: [
        ['y', 's'],
        ['a', 'x'],
      ],
    },
  );
  expect(problemsWithRoster(instance).map((p) => `${p.path} ${p.code}`)).toEqual([
    'people.1.id id-twice',
    'people.0.together.0 with-themselves',
    'people.0.apart.0 no-such-person',
    'people.1.available.0 ends-before-it-starts',
    'shifts.0.end ends-before-it-starts',
    'shifts.1.wished wished-below-least',
    'fixed.0.0 no-such-person',
    'fixed.1.1 no-such-shift',
  ]);
});

test('nothing that is proposed breaks a rule, whatever is drawn, and improving never makes it worth less', () => {
  fc.assert(
    fc.property(instances, fc.integer({ min: 1, max: 99 }), (instance, seed) => {
      const standing = greedy(groundOf(instance));
      expect(broken(instance, standing.assignments())).toEqual([]);
      const before = scoreOf(standing);
      let turns = 0;
      const after = improve(
        standing,
        numbersFrom(seed),
        () => {
          turns += 1;
          return turns > 8;
        },
        () => turns / 8,
      );
      expect(broken(instance, standing.assignments())).toEqual([]);
      expect(after).toEqual(scoreOf(standing));
      expect(compareScores(after, before)).toBeLessThanOrEqual(0);
    }),
    { numRuns: 150 },
  );
});

test('what is fixed stays, whatever it breaks, and nothing is built on it that would break more', () => {
  const instance = roster(
    [person('a', { maxShifts: 2 }), person('b')],
    [
      shift('s', 8, 12),
      shift('t', 10, 14),
      shift('u', 13, 15, { least: 0, wished: 2 }),
      shift('v', 20, 22, { importance: 9 }),
    ],
    {
      fixed: [
        ['a', 's'],
        ['a', 't'],
      ],
    },
  );
  const standing = greedy(groundOf(instance));
  expect(standing.assignments().sort()).toEqual([
    ['a', 's'],
    ['a', 't'],
    ['b', 'u'],
    ['b', 'v'],
  ]);
});

test('the terms of a score, worked by hand, and their order', () => {
  const instance = roster(
    [person('a', { wishes: { Gate: 2 } }), person('b', { wishes: { Landing: -1 } })],
    [
      shift('s', 8, 12, { least: 1, wished: 2, importance: 3 }),
      shift('t', 13, 15, { role: 'Gate', least: 1, wished: 1 }),
    ],
  );
  const ground = groundOf(instance);
  const standing = new Standing(ground);
  standing.put(0, 0);
  standing.put(1, 0);
  standing.put(0, 1);
  // 3 + 1 for what it takes at least, 3 for what is wished; 2 − 1; a has 6 hours, b 4.
  expect(scoreOf(standing)).toEqual({ least: 4, wished: 3, wishes: 1, largest: 6, spread: 52 });
  const score = scoreOf(standing);
  expect(compareScores({ ...score, least: 5, wished: 0, wishes: -9 }, score)).toBeLessThan(0);
  expect(compareScores({ ...score, largest: 7, spread: 1 }, score)).toBeGreaterThan(0);
  expect(gapOf(score, score)).toBe(0);
  expect(gapOf(score, { ...score, wished: 4 })).toBeCloseTo(0.25);
  const most = { least: 4, wished: 4, wishes: 3, largest: 6, spread: 52 };
  expect(worthOf({ ...score, wished: 4, wishes: 0, largest: 6 }, most)).toBeGreaterThan(
    worthOf({ ...score, wishes: 3, largest: 0, spread: 0 }, most),
  );
});

test('more than are wished, fixed by hand, count no more than is wished', () => {
  const instance = roster(
    ['a', 'b', 'c'].map((id) => person(id)),
    [shift('s', 8, 10, { least: 1, wished: 2 })],
    { fixed: ['a', 'b', 'c'].map((id) => [id, 's']) },
  );
  expect(scoreOf(new Standing(groundOf(instance)))).toMatchObject({ least: 1, wished: 1 });
});

test('with many shifts at once and after one another, the best is still what trying everything finds', () => {
  for (let seed = 1; seed <= 12; seed += 1) {
    const instance = drawn(seed, { people: 2, shifts: 18, days: 2, pairs: 0 });
    const free = {
      ...instance,
      people: instance.people.map((p) => ({
        ...p,
        available: null,
        skills: ['food', 'first aid', 'helm'],
        maxHours: null,
        maxShifts: 4,
      })),
    };
    const ground = groundOf(free);
    const random = numbersFrom(seed);
    const worth = ground.shifts.map(() => random() * 10);
    const own = ground.units[0]!;
    const [found] = bestColumns(ground, 0, (n) => worth[own.shifts[n]!]!, {
      squared: 0,
      above: 0,
      most: 1,
      mostMinutes: Infinity,
    });
    const best = Math.max(
      ...allColumns(ground, 0, 1e6)!.map((all) => all.reduce((sum, s) => sum + worth[s]!, 0)),
    );
    expect(found!.worth).toBeCloseTo(best, 6);
    expect(
      found!.shifts.every((a) =>
        found!.shifts.every((b) => a === b || !ground.conflicts[a * ground.shifts.length + b]),
      ),
    ).toBe(true);
  }
});

test('whoever wants no more than some days in a row has the best of what that leaves', () => {
  const days = [0, 1, 2, 3, 4];
  // A short one and a long one each day; the second night goes on into the third day.
  const shifts = days.flatMap((d) => [
    shift(`${d} short`, d * 24 + 9, d * 24 + 11),
    shift(`${d} long`, d * 24 + 12, d * 24 + (d === 1 ? 26 : 16)),
  ]);
  for (const most of [1, 2, 3])
    for (let seed = 1; seed <= 6; seed += 1) {
      const of = { maxInARow: most, otherDays: seed % 3 ? [] : ['2026-08-11'] };
      const ground = groundOf(roster([person('ada', of)], shifts));
      const random = numbersFrom(seed);
      const worth = shifts.map(() => random() * 10);
      const own = ground.units[0]!.shifts;
      const found = bestColumns(ground, 0, (n) => worth[own[n]!]!, {
        squared: 0,
        above: 0,
        most: 1,
        mostMinutes: Infinity,
      })[0]!;
      // Every choice there is, looked at day by day.
      let best = 0;
      for (let choice = 0; choice < 2 ** shifts.length; choice += 1) {
        const chosen = shifts.filter((_, n) => choice & (2 ** n));
        const sum = shifts.reduce((was, _, n) => was + (choice & (2 ** n) ? worth[n]! : 0), 0);
        if (sum <= best) continue;
        const instance = roster([person('ada', of)], shifts);
        if (
          !broken(
            instance,
            chosen.map((s): [string, string] => ['ada', s.id]),
          ).length
        )
          best = sum;
      }
      expect(found.worth).toBeCloseTo(best, 6);
    }
});

test('a gap says who has as many days in a row as they want', () => {
  const shifts = [shift('fri', 9, 12), shift('sat', 33, 36), shift('sun', 57, 60)];
  const standing = greedy(groundOf(roster([person('ada', { maxInARow: 2 })], shifts)));
  const [gap, ...more] = explain(standing);
  expect(more).toEqual([]);
  expect(gap).toMatchObject({
    why: { days: 1 },
    cheapest: { kind: 'days', to: 1, people: ['ada'], fills: 1 },
  });
});

test('the best shifts of one unit are those that trying everything finds', () => {
  fc.assert(
    fc.property(
      instances,
      fc.integer({ min: 1, max: 99 }),
      fc.constantFrom(0, 0.3),
      (instance, seed, squared) => {
        const ground = groundOf(instance);
        const random = numbersFrom(seed);
        const worth = ground.shifts.map(() => Math.round(random() * 20 - 4));
        for (const unit of ground.units.keys()) {
          const own = ground.units[unit]!;
          const all = allColumns(ground, unit, 100_000)!;
          const squares = (shifts: readonly number[]) =>
            own.people.reduce((sum, p) => {
              const before = ground.fixedMinutes[p]! / 60;
              const more = shifts
                .filter((s) => !ground.fixedOf[p]!.includes(s))
                .reduce((m, s) => m + ground.shifts[s]!.minutes / 60, 0);
              return sum + (before + more) ** 2 - before ** 2;
            }, 0);
          const value = (shifts: readonly number[]) =>
            shifts.reduce((sum, s) => sum + worth[s]!, 0) - squared * squares(shifts);
          const best = Math.max(0, ...all.map(value));
          const [found] = bestColumns(ground, unit, (n) => worth[own.shifts[n]!]!, {
            squared,
            above: 0,
            most: 1,
            mostMinutes: Infinity,
          });
          expect(found?.worth ?? 0).toBeCloseTo(best, 6);
          if (found) expect(value(found.shifts)).toBeCloseTo(found.worth, 6);
        }
      },
    ),
    { numRuns: 60 },
  );
});

test('a gap is explained by the smallest change, in hours of rest, and by nothing where nothing would do', () => {
  const aid = { role: 'First aid', needs: ['first aid'], least: 2, wished: 2 };
  const instance = roster(
    [
      person('ada', { skills: ['first aid'] }),
      person('bea', { skills: ['first aid'] }),
      person('cleo', { available: [] }),
      person('dora', { skills: ['first aid'], available: [], keeps: true }),
    ],
    [
      shift('late', 18, 22, { least: 2, wished: 2, importance: 5, needs: ['first aid'] }),
      shift('early', 30, 34, aid),
    ],
    { rules: { restHours: 10, daily: false, placeMinutes: 0, zone: 'UTC' } },
  );
  expect(explain(greedy(groundOf(instance)))).toEqual([
    {
      shift: 'early',
      missing: 2,
      wish: false,
      why: { rest: 2, skill: 1, available: 1 },
      cheapest: { kind: 'rest', to: 8, people: ['ada', 'bea'], fills: 2 },
    },
  ]);
  const alone = roster(
    [person('ada', { skills: [], available: [] })],
    [shift('s', 8, 12, { needs: ['helm'] })],
  );
  expect(explain(greedy(groundOf(alone)))[0]).toMatchObject({
    why: { skill: 1, available: 1 },
    cheapest: null,
  });
});

test('where rest is asked once a day, it is the day that is asked to be shorter; what fills more comes first', () => {
  const daily = roster(
    [person('ada')],
    [shift('morning', 8, 12, { importance: 9 }), shift('evening', 18, 22)],
    { rules: { restHours: 11, daily: true, placeMinutes: 0, zone: 'UTC' } },
  );
  // From 8 to 22 are 14 hours: ten are left of that day.
  expect(explain(greedy(groundOf(daily)))[0]!.cheapest).toEqual({
    kind: 'rest',
    to: 10,
    people: ['ada'],
    fills: 1,
  });
  const two = roster(
    [
      person('ada', { maxHours: 3.5 }),
      person('bea', { available: [[at(8), at(10)]] }),
      person('cleo', { available: [[at(8), at(9)]] }),
    ],
    [shift('s', 8, 12, { least: 2, wished: 2 })],
  );
  expect(explain(greedy(groundOf(two)))[0]!.cheapest).toEqual({
    kind: 'available',
    to: 3,
    people: ['bea', 'cleo'],
    fills: 2,
  });
});

/** The same instance with one thing changed as it was said to be needed. */
function changed(
  instance: RosterInstance,
  shiftId: string,
  change: NonNullable<ReturnType<typeof explain>[number]['cheapest']>,
): RosterInstance {
  const wanted = instance.shifts.find((s) => s.id === shiftId)!;
  if (change.kind === 'rest') return { ...instance, rules: { ...instance.rules, restHours: change.to } };
  return {
    ...instance,
    people: instance.people.map((p) => {
      if (!change.people.includes(p.id)) return p;
      if (change.kind === 'hours')
        return { ...p, maxHours: p.maxHours === null ? null : p.maxHours + change.to };
      if (change.kind === 'shifts')
        return { ...p, maxShifts: p.maxShifts === null ? null : p.maxShifts + change.to };
      if (change.kind === 'days')
        return { ...p, maxInARow: p.maxInARow === null ? null : p.maxInARow + change.to };
      if (change.kind === 'available')
        return { ...p, available: p.available && [...p.available, [wanted.start, wanted.end]] };
      return { ...p, skills: [...p.skills, ...wanted.needs] };
    }),
  };
}

test('what a change is said to bring, it brings: whoever is named can come once it is made', () => {
  let tried = 0;
  fc.assert(
    fc.property(instances, (instance) => {
      const standing = greedy(groundOf(instance));
      for (const { shift: id, cheapest } of explain(standing)) {
        if (!cheapest || cheapest.kind === 'apart' || cheapest.kind === 'alone') continue;
        const ground = groundOf(changed(instance, id, cheapest));
        const at = instance.shifts.findIndex((s) => s.id === id);
        const there = new Standing(ground);
        there.become(standing.pairs());
        for (const p of cheapest.people) {
          const unit = ground.unitOf[instance.people.findIndex((x) => x.id === p)]!;
          expect(there.can(unit, at), `${p} on ${id} by ${JSON.stringify(cheapest)}`).toBe(true);
          tried += 1;
        }
      }
    }),
    { numRuns: 150 },
  );
  expect(tried).toBeGreaterThan(100);
});

test('somebody who drops out is replaced with the fewest changes to others', () => {
  const only = (...ids: string[]) => ({ skills: ids });
  // Nobody is free for the helm but bea, who is at the gate; cleo can take the gate.
  const instance = roster(
    [person('ada', only('helm')), person('bea', only('helm', 'gate')), person('cleo', only('gate'))],
    [shift('boat', 8, 12, { needs: ['helm'] }), shift('gate', 8, 12, { needs: ['gate'] })],
  );
  const ground = groundOf({ ...instance, people: instance.people.slice(1), fixed: [] });
  const standing = new Standing(ground);
  standing.put(0, 1);
  const steps = fewestChanges(standing, 0)!;
  expect(steps).toEqual([
    { unit: 0, to: 0, from: 1 },
    { unit: 1, to: 1, from: null },
  ]);
  expect(standing.pairs()).toEqual([[0, 1]]);
  expect(take(standing, steps)).toBe(true);
  expect(standing.pairs().sort()).toEqual([
    [0, 0],
    [1, 1],
  ]);
  // Whoever is free comes first, without moving anybody.
  const free = groundOf(roster([person('a'), person('b')], [shift('s', 8, 12), shift('t', 8, 12)]));
  const busy = new Standing(free);
  busy.put(0, 1);
  expect(fewestChanges(busy, 0)).toEqual([{ unit: 1, to: 0, from: null }]);
});

test('a repair breaks no rule, and one change is found whenever one is enough', () => {
  fc.assert(
    fc.property(instances, (instance) => {
      const standing = greedy(groundOf(instance));
      const { ground } = standing;
      for (const [unit, s] of standing.pairs().slice(0, 4)) {
        if (!standing.has(unit, s) || !standing.canLeave(unit, s)) continue;
        standing.take(unit, s);
        const direct = ground.candidates[s]!.some((u) => standing.can(u, s));
        const steps = fewestChanges(standing, s);
        if (direct) expect(steps?.length).toBe(1);
        if (steps) expect(take(standing, steps)).toBe(true);
        expect(broken(instance, standing.assignments())).toEqual([]);
      }
    }),
    { numRuns: 100 },
  );
});
