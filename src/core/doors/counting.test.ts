import fc from 'fast-check';
import { expect, test } from 'vitest';
import { type CountedSession, earns, minutesCounted } from './counting.ts';
import type { DoorMark } from './marks.ts';

const at = (minute: number) => new Date(Date.UTC(2026, 6, 10, 12, minute)).toISOString();
const mark = (
  id: string,
  state: DoorMark['state'],
  minute: number,
  sessionId: string | null = null,
): DoorMark => ({
  id,
  state,
  at: at(minute),
  undoes: [],
  sessionId,
});
/** Noon to 16:00. */
const day = { day: 1, date: '2026-07-10', from: at(0), until: at(240), shut: null };
const session = (
  id: string,
  from: number,
  until: number,
  more: Partial<CountedSession> = {},
): CountedSession => ({
  id,
  from: at(from),
  until: at(until),
  signUp: false,
  kept: false,
  ...more,
});
const counted = (marks: DoorMark[], sessions: CountedSession[] = [], chosen: string[] = []) => ({
  marks,
  days: [day],
  sessions,
  chosen: new Set(chosen),
  now: at(1000),
});

test('minutes of the event: between its beginning and its end, out and in again', () => {
  const marks = [mark('a', 'arrived', -20), mark('b', 'left', 60), mark('c', 'arrived', 90)];
  // 60 minutes until they left, 150 from when they were back until the end.
  expect(minutesCounted('event', counted(marks))).toEqual({ minutes: 210, of: 240 });
  expect(minutesCounted('event', counted([]))).toEqual({ minutes: 0, of: 240 });
  // While it goes on nobody has been there longer than until now.
  expect(minutesCounted('event', { ...counted(marks), now: at(100) }).minutes).toBe(70);
});

test('minutes of sessions: at their own doors where these are kept, else in the building', () => {
  const sessions = [
    session('plenary', 0, 60),
    session('a', 60, 120, { kept: true }),
    session('b', 60, 120, { kept: true }),
  ];
  const marks = [mark('x', 'arrived', 0), mark('y', 'arrived', 70, 'a')];
  // 60 of the plenary and 50 at a; a and b are at one time, and count for 60 minutes together.
  expect(minutesCounted('sessions', counted(marks, sessions))).toEqual({ minutes: 110, of: 120 });
  // Of what people sign up for, only what they did.
  const signed = [
    session('plenary', 0, 60),
    session('w', 120, 180, { signUp: true }),
    session('v', 180, 240, { signUp: true }),
  ];
  expect(minutesCounted('sessions', counted(marks, signed, ['w']))).toEqual({ minutes: 120, of: 120 });
  expect(minutesCounted('sessions', counted(marks, signed))).toEqual({ minutes: 60, of: 60 });
});

test('a certificate is earned from the share on, to the minute, and never for nothing', () => {
  expect(earns({ minutes: 192, of: 240 }, { share: 80 })).toBe(true);
  expect(earns({ minutes: 191, of: 240 }, { share: 80 })).toBe(false);
  expect(earns({ minutes: 0, of: 0 }, { share: 80 })).toBe(false);
});

test('nobody is counted for more than there was', () => {
  const marks = fc.array(
    fc.tuple(
      fc.constantFrom('arrived' as const, 'left' as const),
      fc.integer({ min: -60, max: 300 }),
      fc.constantFrom(null, 'a', 'b'),
    ),
    { maxLength: 10 },
  );
  const sessions = fc.array(
    fc.tuple(
      fc.constantFrom('a', 'b', 'c'),
      fc.nat(200),
      fc.integer({ min: 1, max: 90 }),
      fc.boolean(),
      fc.boolean(),
    ),
    { maxLength: 6 },
  );
  fc.assert(
    fc.property(marks, sessions, fc.constantFrom('event' as const, 'sessions' as const), (m, s, of) => {
      const result = minutesCounted(
        of,
        counted(
          m.map(([state, minute, id], n) => mark(`m${n}`, state, minute, id)),
          s.map(([id, from, long, signUp, kept]) => session(id, from, from + long, { signUp, kept })),
          ['a'],
        ),
      );
      expect(result.minutes).toBeGreaterThanOrEqual(0);
      expect(result.minutes).toBeLessThanOrEqual(result.of);
    }),
  );
});
