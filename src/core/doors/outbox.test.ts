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
  sessionId: null,
  handedTo: '',
  device: '',
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
    null,
  );
  expect(shown.map((r) => [r.registrationId, r.attendance, r.headline, r.waits])).toEqual([
    ['a', 'arrived', 'Already in', true],
    ['b', 'expected', 'Come in', true],
    ['c', 'expected', 'Come in', false],
    ['d', 'expected', 'Come in', false],
  ]);
});

test('what the server took shows until the list has it, and waits no more', () => {
  const [shown] = withWaiting([row('a')], [{ ...mark('a', 'arrived'), told: 1 }], null);
  expect([shown!.attendance, shown!.waits]).toEqual(['arrived', false]);
});

test('an arrival is given up only when the server said no to it', () => {
  expect([200, 201].map(outcomeOf)).toEqual(['kept', 'kept']);
  expect([409, 403, 404, 422].map(outcomeOf)).toEqual(['refused', 'refused', 'refused', 'refused']);
  expect([0, 401, 429, 500, 502, 503].map(outcomeOf)).toEqual(Array(6).fill('later'));
});

test('at the door of the event an arrival at a session shows, leaving it does not; at a session only what is its own', () => {
  const at = (sessionId: string | null, state: WaitingMark['state']) => ({ ...mark('a', state), sessionId });
  const state = (waiting: WaitingMark[], door: string | null) =>
    withWaiting([row('a')], waiting, door)[0]!.attendance;
  expect(state([at('s', 'arrived')], null)).toBe('arrived');
  expect(state([at('s', 'arrived'), at('s', 'left')], null)).toBe('arrived');
  expect(state([at('s', 'arrived'), at('s', 'left')], 's')).toBe('left');
  expect(state([at(null, 'arrived'), at('t', 'arrived')], 's')).toBe('expected');
});
