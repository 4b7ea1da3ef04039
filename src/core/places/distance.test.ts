import fc from 'fast-check';
import { expect, test } from 'vitest';
import { metresBetween, minutesFor } from './distance.ts';
import type { Point } from './gazetteer.ts';

test('metres between points, by hand', () => {
  // A degree along a meridian is R π / 180; on the equator, as far along it.
  expect(metresBetween([44, -63], [45, -63])).toBeCloseTo(111_195.08, 1);
  expect(metresBetween([0, 10], [0, 11])).toBeCloseTo(111_195.08, 1);
  expect(metresBetween([60, 10], [60, 11])).toBeCloseTo(55_597, -2);
  // From one pole to the other is half a circle, across the date line as anywhere.
  expect(metresBetween([90, 0], [-90, 0])).toBeCloseTo(Math.PI * 6_371_008.8, 0);
  expect(metresBetween([0, 179.5], [0, -179.5])).toBeCloseTo(111_195.08, 1);
});

const point: fc.Arbitrary<Point> = fc.tuple(
  fc.double({ min: -90, max: 90, noNaN: true }),
  fc.double({ min: -180, max: 180, noNaN: true }),
);
test('it is as far back, nowhere to oneself, and never shorter by another way', () => {
  fc.assert(
    fc.property(point, point, point, (a, b, c) => {
      expect(metresBetween(a, b)).toBeCloseTo(metresBetween(b, a), 6);
      expect(metresBetween(a, a)).toBe(0);
      // On the other side of the earth the arc sine loses half its digits: a few tenths of a metre.
      expect(metresBetween(a, c)).toBeLessThanOrEqual(metresBetween(a, b) + metresBetween(b, c) + 0.3);
    }),
  );
});

test('on foot where it is near, driving where it is far, and never sooner for being farther', () => {
  expect(minutesFor(0)).toBe(0);
  // 500 m are 650 on the way: 7.8 minutes.
  expect(minutesFor(500)).toBe(8);
  // 10 km are 13 on the way: 19.5 minutes and ten.
  expect(minutesFor(10_000)).toBe(30);
  for (let metres = 0; metres < 20_000; metres += 50)
    expect(minutesFor(metres + 50)).toBeGreaterThanOrEqual(minutesFor(metres));
});
