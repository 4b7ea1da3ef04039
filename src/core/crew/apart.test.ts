import { expect, test } from 'vitest';
import { minutesApart } from './apart.ts';

const ground = (place: string, north = 0) => ({ place, point: [44.6 + north, -63.4] as const });
const somewhere = (place: string) => ({ place, point: null });

test('minutes from one shift to the next: by the way, by what is usual, or none', () => {
  // A hundredth of a degree is 1,112 m: 17.3 minutes on foot, 12.2 by car.
  expect(minutesApart(ground('Landing A'), ground('Kitchen', 0.01), 10)).toBe(13);
  expect(minutesApart(ground('Landing A'), ground('Landing A', 0.01), 10)).toBe(13);
  expect(minutesApart(ground('Landing A'), ground('Landing B', 0.001), 10)).toBe(10);
  expect(minutesApart(ground('Landing A'), ground(' landing a '), 10)).toBe(0);
  expect(minutesApart(ground('Landing A'), ground(''), 10)).toBe(0);
  expect(minutesApart(somewhere('Landing A'), ground('Landing B'), 10)).toBe(10);
  expect(minutesApart(somewhere('Landing A'), somewhere('Landing B'), 0)).toBe(0);
});
