import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { Against } from './against.ts';
import { type Able, compareAble } from './ranking.ts';

const against = (kind: Against['kind'], absolute = false): Against => ({ kind, params: {}, absolute });
const able = (name: string, more: Partial<Able> = {}): Able => ({
  name,
  against: [],
  servedInRole: 0,
  hoursHere: 0,
  wish: 0,
  ...more,
});
const order = (...who: Able[]) => [...who].sort(compareAble).map((a) => a.name);

test('whom nothing speaks against comes first, whom nobody may put on last', () => {
  expect(
    order(
      able('never', { against: [against('skill', true)], servedInRole: 9 }),
      able('twice', { against: [against('short rest'), against('unseen')], servedInRole: 9 }),
      able('once', { against: [against('unseen')] }),
      able('free'),
    ),
  ).toEqual(['free', 'once', 'twice', 'never']);
});

test('of two whom nothing speaks against, whoever has less to do; of those alike, whoever knows the role', () => {
  expect(
    order(
      able('expert, busy', { servedInRole: 12, hoursHere: 8 }),
      able('expert', { servedInRole: 12, hoursHere: 3 }),
      able('new', { hoursHere: 0 }),
      able('some', { servedInRole: 2, hoursHere: 3.5 }),
    ),
  ).toEqual(['expert', 'some', 'new', 'expert, busy']);
  expect(order(able('b'), able('a'))).toEqual(['a', 'b']);
  expect(
    order(
      able('knows it', { servedInRole: 9 }),
      able('wants it', { wish: 1 }),
      able('loves it', { wish: 3 }),
    ),
  ).toEqual(['loves it', 'wants it', 'knows it']);
});

test('the order is one: nobody comes both before and after somebody', () => {
  const anybody = fc.record({
    name: fc.constantFrom('a', 'b', 'c'),
    against: fc.array(fc.constantFrom(against('skill'), against('overlap', true), against('quiet')), {
      maxLength: 3,
    }),
    servedInRole: fc.nat(5),
    hoursHere: fc.integer({ min: 0, max: 40 }).map((n) => n / 4),
    wish: fc.nat(3),
  });
  fc.assert(
    fc.property(anybody, anybody, anybody, (a, b, c) => {
      expect(Math.sign(compareAble(a, b)) + Math.sign(compareAble(b, a))).toBe(0);
      if (compareAble(a, b) <= 0 && compareAble(b, c) <= 0) expect(compareAble(a, c)).toBeLessThanOrEqual(0);
    }),
  );
});
