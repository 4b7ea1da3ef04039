import { expect, test } from 'vitest';
import { explain } from '#core/roster/explaining.ts';
import { greedy } from '#core/roster/greedy.ts';
import { groundOf } from '#core/roster/ground.ts';
import { problemsWithRoster } from '#core/roster/instance.ts';
import { instantOf } from '#core/time/wallTime.ts';
import { type Filler, type OpenShift, repairOf, rosterOf } from './filling.ts';
import { noLimits } from './limits.ts';

const zone = 'America/Halifax';
const rules = { restHours: 8, placeMinutes: 0, ageOfMajority: 19, zone };
const shift = (id: string, from: string, to: string, more: Partial<OpenShift> = {}): OpenShift => ({
  id,
  role: 'Gate',
  place: '',
  startsLocal: from,
  endsLocal: to,
  startsAt: instantOf(from, zone),
  endsAt: instantOf(to, zone),
  least: 1,
  wished: 1,
  importance: 'usual',
  asks: { fromAge: null, needs: [] },
  not: [],
  ...more,
});
const person = (contactId: string, more: Partial<Filler> = {}): Filler => ({
  contactId,
  birthDate: null,
  skills: [],
  accepted: true,
  available: null,
  limits: noLimits,
  outside: { shifts: 0, hours: 0, days: [] },
  wishes: {},
  elsewhere: [],
  ...more,
});
/** Who could be on each shift, by the roster alone. */
const couldBe = (
  people: Filler[],
  shifts: OpenShift[],
  more: Partial<Parameters<typeof rosterOf>[2]> = [],
) => {
  const instance = rosterOf(people, shifts, more as never, [], rules);
  expect(problemsWithRoster(instance)).toEqual([]);
  const ground = groundOf(instance);
  return shifts.map((_, at) =>
    ground.candidates[at]!.flatMap((u) => ground.units[u]!.people.map((p) => people[p]!.contactId)),
  );
};
const day = shift('day', '2026-08-08T09:00', '2026-08-08T13:00');
const night = shift('night', '2026-08-08T21:00', '2026-08-09T01:00');

test('who was accepted can be where they said, until when they want to be done, and where nothing else has them', () => {
  expect(
    couldBe(
      [
        person('any'),
        person('not accepted', { accepted: false }),
        person('morning', {
          available: { kind: 'dates', stretches: [{ date: '2026-08-08', from: '08:00', to: '13:00' }] },
        }),
        person('Saturdays', {
          available: { kind: 'week', stretches: [{ weekday: 6, from: '00:00', to: '24:00' }] },
        }),
        person('not late', { limits: { ...noLimits, latest: '22:00' } }),
        person('until one', { limits: { ...noLimits, latest: '01:00' } }),
        person('on a boat', {
          elsewhere: [
            { startsAt: instantOf('2026-08-08T06:00', zone), endsAt: instantOf('2026-08-08T12:00', zone) },
          ],
        }),
        person('yesterday', {
          limits: { ...noLimits, inARow: 1 },
          outside: { shifts: 1, hours: 3, days: ['2026-08-07'] },
        }),
        person('no two days', { limits: { ...noLimits, inARow: 1 } }),
        person('enough', { limits: { ...noLimits, hours: 6 }, outside: { shifts: 1, hours: 3, days: [] } }),
      ],
      [day, night],
    ),
  ).toEqual([
    ['any', 'morning', 'Saturdays', 'not late', 'until one', 'no two days'],
    ['any', 'until one', 'on a boat'],
  ]);
});

test('a certificate holds on the last day and was seen; an age is known; who gave it back is not put on it again', () => {
  const needs = [{ id: 'aid', name: 'First aid', certificate: true }];
  const aid = shift('aid', '2026-08-08T21:00', '2026-08-09T01:00', {
    asks: { fromAge: 18, needs },
    not: ['gave back'],
  });
  const holds = (
    contactId: string,
    until: string | null,
    seen = true,
    birthDate: string | null = '1990-01-01',
  ) => person(contactId, { skills: [{ skillId: 'aid', until, seen }], birthDate });
  expect(
    couldBe(
      [
        holds('holds', '2026-08-09'),
        holds('a day short', '2026-08-08'),
        holds('unseen', null, false),
        holds('too young', null, true, '2008-08-09'),
        holds('eighteen', null, true, '2008-08-08'),
        holds('who knows', null, true, null),
        holds('gave back', null),
      ],
      [aid],
    ),
  ).toEqual([['holds', 'eighteen']]);
});

test('what is agreed stays, also of whoever was not accepted; pairs hold among those who can be put', () => {
  const people = [person('a'), person('b'), person('c', { accepted: false })];
  const instance = rosterOf(
    people,
    [shift('day', '2026-08-08T09:00', '2026-08-08T13:00', { wished: 3, importance: 'vital' })],
    [['c', 'day']],
    [
      { contactId: 'a', otherId: 'b', kind: 'together' },
      { contactId: 'c', otherId: 'a', kind: 'together' },
      { contactId: 'b', otherId: 'nobody', kind: 'apart' },
    ],
    rules,
  );
  expect(instance.people.map((p) => [p.together, p.apart])).toEqual([
    [['b'], []],
    [['a'], []],
    [[], []],
  ]);
  expect(instance.shifts[0]!.importance).toBe(10);
  expect(
    greedy(groundOf(instance))
      .assignments()
      .map(([p]) => p)
      .sort(),
  ).toEqual(['a', 'b', 'c']);
});

test('what stays open is explained by who was accepted, and not by who only keeps a shift', () => {
  const people = [
    person('keeps', { accepted: false }),
    person('early', {
      available: { kind: 'dates', stretches: [{ date: '2026-08-08', from: '06:00', to: '12:00' }] },
    }),
  ];
  const instance = rosterOf(people, [day, night], [['keeps', 'night']], [], rules);
  expect(explain(greedy(groundOf(instance)))).toEqual([
    {
      shift: 'day',
      missing: 1,
      wish: false,
      why: { available: 1 },
      cheapest: { kind: 'available', to: 1, people: ['early'], fills: 1 },
    },
  ]);
});

test('somebody steps in: whoever is free; else one moves and another takes their place; who is there against the rules stays', () => {
  const early = shift('early', '2026-08-08T09:00', '2026-08-08T12:00', {
    role: 'Boat',
    asks: { fromAge: null, needs: [{ id: 'boat', name: 'Boat', certificate: false }] },
  });
  const same = shift('same', '2026-08-08T09:00', '2026-08-08T12:00');
  const boat = [{ skillId: 'boat', until: null, seen: true }];
  const of = (people: Filler[], agreed: [string, string][]) =>
    repairOf(rosterOf(people, [early, same], agreed, [], rules), 'early');
  expect(
    of([person('free', { skills: boat }), person('busy', { skills: boat })], [['busy', 'same']]),
  ).toEqual([{ contactId: 'free', to: 'early', from: null }]);
  expect(of([person('land'), person('busy', { skills: boat })], [['busy', 'same']])).toEqual([
    { contactId: 'busy', to: 'early', from: 'same' },
    { contactId: 'land', to: 'same', from: null },
  ]);
  expect(of([person('busy', { skills: boat, accepted: false })], [['busy', 'same']])).toBeNull();
  expect(of([person('land')], [])).toBeNull();
});

test('without a shift there is nothing to fill', () => {
  expect(rosterOf([person('a')], [], [], [], rules).shifts).toEqual([]);
});
