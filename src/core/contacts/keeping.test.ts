import { describe, expect, test } from 'vitest';
import { weightOf } from './keeping.ts';

describe('which of two merged contacts stays', () => {
  const bare = { seats: 0, shifts: 0, gifts: 0, emails: [], phones: [] };
  test('one with history outweighs one with more addresses', () =>
    expect(weightOf({ ...bare, seats: 1 })).toBeGreaterThan(
      weightOf({ ...bare, emails: ['a@x.example'], phones: ['+19025550111'] }),
    ));
  test('a shift and a gift weigh as much as a seat', () => {
    expect(weightOf({ ...bare, shifts: 1 })).toBe(weightOf({ ...bare, gifts: 1 }));
    expect(weightOf(bare)).toBe(0);
  });
});
