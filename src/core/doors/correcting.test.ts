import fc from 'fast-check';
import { expect, test } from 'vitest';
import { againstSessions, correcting, problemsWithStays } from './correcting.ts';
import { type DoorMark, marksOfEvent, marksOfSession, presenceOf, type Stay } from './marks.ts';

const at = (minute: number) => new Date(Date.UTC(2026, 6, 10, 12, minute)).toISOString();
const stay = (from: number, until: number | null): Stay => ({
  from: at(from),
  until: until === null ? null : at(until),
});
const days = [{ day: 1, date: '2026-07-10', from: at(0), until: at(240), shut: null }];
const wrong = (stays: Stay[], now = 600) =>
  problemsWithStays(stays, days, at(now)).map((p) => `${p.path} ${p.code}`);

test('times that cannot be are said one by one', () => {
  expect(wrong([stay(0, 60), stay(90, null)])).toEqual([]);
  expect(wrong([stay(60, 0)])).toEqual(['stays.0.until left-before']);
  expect(wrong([stay(0, 60), stay(30, 90)])).toEqual(['stays.1.from stays-overlap']);
  expect(wrong([stay(0, null), stay(90, 100)])).toEqual(['stays.1.from stays-overlap']);
  expect(wrong([stay(0, 60)], 30)).toEqual(['stays.0.until time-to-come']);
  expect(wrong([stay(60, 70)], 30)).toEqual(['stays.0.from time-to-come', 'stays.0.until time-to-come']);
  expect(wrong([stay(-24 * 60, -23 * 60)])).toEqual(['stays.0.from not-at-the-event']);
  expect(problemsWithStays([stay(0, 1)], [], at(600))[0]!.code).toBe('not-at-the-event');
});

const marks = fc
  .array(
    fc.record({
      state: fc.constantFrom('arrived' as const, 'left' as const),
      minute: fc.nat(200),
      sessionId: fc.constantFrom(null, 's'),
      gone: fc.boolean(),
    }),
    { maxLength: 10 },
  )
  .map((steps) =>
    steps.flatMap(({ state, minute, sessionId, gone }, n): DoorMark[] => [
      { id: `m${n}`, state, at: at(minute), undoes: [], sessionId },
      ...(gone
        ? [{ id: `u${n}`, state: 'expected' as const, at: at(minute), undoes: [`m${n}`], sessionId }]
        : []),
    ]),
  );
const stays = fc
  .uniqueArray(fc.nat(200), { maxLength: 6 })
  .map((minutes) => minutes.sort((a, b) => a - b))
  .map((m) => m.flatMap((from, n) => (n % 2 ? [] : [stay(from, m[n + 1] ?? null)])));

test('after a correction somebody was there when it is said, and nothing that was marked is gone', () => {
  const newId = () => crypto.randomUUID();
  fc.assert(
    fc.property(marks, stays, fc.boolean(), (before, said, ofSession) => {
      const sessionId = ofSession ? 's' : null;
      const made = correcting(before, sessionId, said, at(500), newId);
      const after = [...before, ...made];
      if (ofSession) expect(presenceOf(marksOfSession(after, 's')).stays).toEqual(said);
      else if (!againstSessions(before, said).length || !said.length)
        expect(presenceOf(marksOfEvent(after)).stays).toEqual(said);
      // Of the other door nothing is taken back, except where they never came at all.
      if (ofSession)
        expect(
          made.flatMap((m) => m.undoes).every((id) => before.find((m) => m.id === id)!.sessionId === 's'),
        ).toBe(true);
      expect(made.every((m) => m.sessionId === sessionId)).toBe(true);
    }),
  );
});

test('what was marked at a session outside the times that are said stands against them', () => {
  const session: DoorMark = { id: 's', state: 'arrived', at: at(30), undoes: [], sessionId: 'talk' };
  expect(againstSessions([session], [stay(60, 90)])).toEqual([session]);
  expect(againstSessions([session], [stay(0, 90)])).toEqual([]);
  // From the moment they came on it is theirs, and at the moment they left it is not.
  expect(againstSessions([session], [stay(30, 90)])).toEqual([]);
  expect(againstSessions([session], [stay(0, 30)])).toEqual([session]);
  const undo: DoorMark = { id: 'u', state: 'expected', at: at(31), undoes: ['s'], sessionId: 'talk' };
  expect(againstSessions([session, undo], [stay(60, 90)])).toEqual([]);
});
