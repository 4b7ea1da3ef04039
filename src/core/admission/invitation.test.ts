import { expect, test } from 'vitest';
import { repliesOf, replyRules, seatsByInvitation } from './invitation.ts';

test('whoever is invited always can come; whether they say no or perhaps is the organizer’s to ask', () => {
  expect(replyRules.map(repliesOf)).toEqual([['yes'], ['yes', 'no'], ['yes', 'perhaps', 'no']]);
});

test('an invitation is for one, and as many as they may bring along', () => {
  expect([seatsByInvitation(0, 0), seatsByInvitation(2, 0), seatsByInvitation(2, 2)]).toEqual([1, 3, 1]);
  expect(seatsByInvitation(1, 5)).toBe(0);
});
