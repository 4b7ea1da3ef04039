import { expect, test } from 'vitest';
import { outcomeOf, type WaitingMark, withWaiting } from './outbox.ts';

const mark = (
  registrationId: string,
  state: WaitingMark['state'],
  refused: string | null = null,
): WaitingMark => ({
  id: `${registrationId}-${state}`,
  eventId: 'e',
  registrationId,
  name: 'Mai',
  state,
  despite: '',
  undoes: [],
  at: '2026-08-08T12:00:00.000Z',
  refused,
});
const row = (registrationId: string) => ({
  registrationId,
  attendance: 'expected',
  undo: [] as string[],
  light: 'go',
  headline: 'Come in',
});

test('what waits shows as if the server had it; the last mark counts, what was refused does not', () => {
  const shown = withWaiting(
    [row('a'), row('b'), row('c'), row('d')],
    [mark('a', 'arrived'), mark('b', 'arrived'), mark('b', 'expected'), mark('c', 'arrived', 'stop')],
  );
  expect(shown.map((r) => [r.registrationId, r.attendance, r.headline, r.waits])).toEqual([
    ['a', 'arrived', 'Already in', true],
    ['b', 'expected', 'Come in', true],
    ['c', 'expected', 'Come in', false],
    ['d', 'expected', 'Come in', false],
  ]);
});

test('what the server took shows until the list has it, and waits no more', () => {
  const [shown] = withWaiting([row('a')], [{ ...mark('a', 'arrived'), told: 1 }]);
  expect([shown!.attendance, shown!.waits]).toEqual(['arrived', false]);
});

test('an arrival is given up only when the server said no to it', () => {
  expect([200, 201].map(outcomeOf)).toEqual(['kept', 'kept']);
  expect([409, 403, 404, 422].map(outcomeOf)).toEqual(['refused', 'refused', 'refused', 'refused']);
  expect([0, 401, 429, 500, 502, 503].map(outcomeOf)).toEqual(Array(6).fill('later'));
});
