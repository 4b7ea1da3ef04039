import fc from 'fast-check';
import { expect, test } from 'vitest';
import { usualQuiet } from '#core/messages/hours.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { instantOf, wallOf } from '#core/time/wallTime.ts';
import { type Askable, answerUntil, askedAt, whomToAsk } from './steppingIn.ts';

const zone = 'America/Halifax';
const at = (wall: string) => instantOf(wall, zone);
const until = (now: string, startsAt: string) => {
  const answer = answerUntil(at(now), at(startsAt), usualQuiet, zone);
  return answer && wallOf(answer, zone);
};

test('the nearer the shift, the shorter the time to answer', () => {
  // A week ahead twelve hours would end at night: the answer is due half an hour after the morning begins.
  expect(until('2026-08-01T10:00', '2026-08-08T09:00')).toBe('2026-08-02T08:30');
  expect(until('2026-08-01T08:00', '2026-08-08T09:00')).toBe('2026-08-01T20:00');
  // Six hours and a quarter before: a sixth of the six hours until the last call.
  expect(until('2026-08-08T09:00', '2026-08-08T15:15')).toBe('2026-08-08T10:00');
  expect(until('2026-08-08T12:00', '2026-08-08T14:00')).toBe('2026-08-08T12:30');
  // Never beyond the last call, and not at all after it.
  expect(until('2026-08-08T13:30', '2026-08-08T14:00')).toBe('2026-08-08T13:45');
  expect(until('2026-08-08T13:45', '2026-08-08T14:00')).toBe(null);
});

test('who is asked at night has from the morning on, unless the shift begins before', () => {
  expect(until('2026-08-07T23:00', '2026-08-08T14:15')).toBe('2026-08-08T09:00');
  expect(until('2026-08-07T23:00', '2026-08-08T07:00')).toBe('2026-08-08T00:18');
  const asked = (startsAt: string) =>
    wallOf(askedAt(at('2026-08-07T23:00'), at(startsAt), usualQuiet, zone), zone);
  expect(asked('2026-08-08T14:15')).toBe('2026-08-08T08:00');
  expect(asked('2026-08-08T07:00')).toBe('2026-08-07T23:00');
  expect(answerUntil(at('2026-08-07T23:00'), at('2026-08-09T14:00'), null, zone)).toBe(
    plusMinutes(at('2026-08-07T23:00'), 388),
  );
});

test('an answer is due after it is asked for, and before the shift', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 20_000 }), fc.integer({ min: 1, max: 1440 }), (ahead, minute) => {
      const now = plusMinutes(at('2026-10-31T00:00'), minute);
      const startsAt = plusMinutes(now, ahead);
      const answer = answerUntil(now, startsAt, usualQuiet, zone);
      if (ahead <= 15) expect(answer).toBe(null);
      else {
        expect(answer! > now).toBe(true);
        expect(answer! <= plusMinutes(startsAt, -15)).toBe(true);
      }
    }),
  );
});

const one = (contactId: string, of: Partial<Askable> = {}): Askable => ({
  contactId,
  free: true,
  reached: true,
  asked: false,
  ...of,
});

test('those who wait come first, in the order they came; who cannot is passed over', () => {
  const waiting = [one('busy', { free: false }), one('second'), one('said no', { asked: true })];
  const others = [one('best'), one('second'), one('unreached', { reached: false }), one('next')];
  expect(whomToAsk(1, waiting, others)).toEqual([{ contactId: 'second', waited: true }]);
  expect(whomToAsk(9, waiting, others)).toEqual([
    { contactId: 'second', waited: true },
    { contactId: 'best', waited: false },
    { contactId: 'next', waited: false },
  ]);
  expect(whomToAsk(0, waiting, others)).toEqual([]);
  expect(whomToAsk(-1, waiting, others)).toEqual([]);
});
