import { describe, expect, test } from 'vitest';
import { heardBy, isUnanswered, shownName } from './board.ts';

test.each([
  ['Mai Sallow', 'Mai S.'],
  ['  Mai  van der Berg ', 'Mai B.'],
  ['Mai', 'Mai'],
  ['Øyvind Åse', 'Øyvind Å.'],
  ['Anna 😀', 'Anna 😀.'],
])('%s is shown as %s', (name, shown) => {
  expect(shownName(name)).toBe(shown);
});

test('a question waits for an answer until there is one, or it was put away', () => {
  expect(isUnanswered({ state: 'waits', answeredAt: null })).toBe(true);
  expect(isUnanswered({ state: 'shown', answeredAt: null })).toBe(true);
  expect(isUnanswered({ state: 'hidden', answeredAt: null })).toBe(false);
  expect(isUnanswered({ state: 'shown', answeredAt: '2026-07-01T12:00:00.000Z' })).toBe(false);
});

describe('who hears of an answer besides whoever asked', () => {
  const followers = ['b@x.example', null, ' A@x.example', 'B@X.example', 'c@x.example'].map((email) => ({
    email,
  }));
  test('those who follow the event, each address once', () => {
    const heard = heardBy({ email: 'a@x.example', state: 'shown' }, followers);
    expect(heard.map((f) => f.email)).toEqual(['b@x.example', 'c@x.example']);
  });
  test.each(['waits', 'hidden'] as const)('nobody of one that %s', (state) => {
    expect(heardBy({ email: 'a@x.example', state }, followers)).toEqual([]);
  });
});
