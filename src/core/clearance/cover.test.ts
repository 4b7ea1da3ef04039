import { describe, expect, test } from 'vitest';
import { notCovered } from './cover.ts';

const step = (ruleId: string, state: Parameters<typeof notCovered>[0][number]['state'], looked: object) => ({
  ruleId,
  state,
  looked: looked as never,
});
const wants = (id: string, name: string, looked: object) => ({
  rule: { id, step: name },
  looked: looked as never,
});

describe('one clearance for several plans', () => {
  const decided = [
    step('safety', 'cleared', { boats: true, people: 40 }),
    step('finance', 'cleared with conditions', { money: true }),
    step('fire', 'with approver', { fire: true }),
    step('old', 'not needed', { food: true }),
  ];

  test('covers what was decided on the same values, in whatever order they are kept', () => {
    expect(
      notCovered(decided, [
        wants('safety', 'Safety', { people: 40, boats: true }),
        wants('finance', 'Finance', { money: true }),
      ]),
    ).toEqual([]);
    expect(notCovered(decided, [])).toEqual([]);
  });

  test('does not cover what differs, what nobody decided, and what was not asked', () => {
    expect(
      notCovered(decided, [
        wants('safety', 'Safety', { boats: true, people: 90 }),
        wants('fire', 'Fire', { fire: true }),
        wants('old', 'Kitchen', { food: true }),
        wants('premises', 'Premises', {}),
      ]),
    ).toEqual(['Safety', 'Fire', 'Kitchen', 'Premises']);
  });
});
