import { expect, test } from 'vitest';
import { goalAt } from './goal.ts';

test('a goal moves on once it is reached', () => {
  expect(goalAt([60, 40], 31)).toEqual({ reached: 31, next: 40, after: 60 });
  expect(goalAt([40, 60], 40)).toEqual({ reached: 40, next: 60, after: null });
  expect(goalAt([40, 60], 75)).toEqual({ reached: 75, next: 60, after: null });
  expect(goalAt([40, 40], 0)).toEqual({ reached: 0, next: 40, after: null });
  expect(goalAt([], 12)).toBeNull();
});
