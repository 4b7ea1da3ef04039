import fc from 'fast-check';
import { expect, test } from 'vitest';
import { type Been, type Coming, suiting } from './suiting.ts';

const now = '2026-07-09T12:00:00.000Z';
const coming = (id: string, startsLocal: string, more: Partial<Coming> = {}): Coming => ({
  id,
  firstOf: id,
  category: 'talk',
  unitId: null,
  startsLocal,
  startsAt: `${startsLocal}:00.000Z`,
  ...more,
});
const been = (firstOf: string, startsLocal: string, more: Partial<Been> = {}): Been => ({
  firstOf,
  category: 'work',
  unitId: null,
  startsLocal,
  came: true,
  ...more,
});

test('whoever always comes to the reed cut is asked to the next one, not to the talk that is sooner', () => {
  const next = suiting(
    [
      coming('talk', '2026-07-15T19:00'),
      coming('cut', '2026-08-05T09:00', { firstOf: 'reed', category: 'work' }),
      coming('cut later', '2026-09-02T09:00', { firstOf: 'reed', category: 'work' }),
    ],
    [been('reed', '2026-05-06T09:00'), been('reed', '2026-06-03T09:00', { came: false })],
    now,
  );
  expect(next?.id).toBe('cut');
});

test('where the same is not held again, by category, and by when they have time', () => {
  const events = [
    coming('weekday', '2026-07-15T10:00', { category: 'water' }),
    coming('saturday', '2026-07-18T10:00', { category: 'water' }),
    coming('evening', '2026-07-16T19:00', { category: 'talk' }),
  ];
  const onWater = been('open', '2025-08-09T09:00', { category: 'water' });
  expect(suiting(events, [onWater], now)?.id).toBe('saturday');
  expect(suiting(events, [been('t', '2025-10-02T19:00', { category: 'talk' })], now)?.id).toBe('evening');
});

test('what has nothing in common with what somebody knows is not named, nor anything to who has no history', () => {
  const [odd] = [coming('odd', '2026-07-18T19:00')];
  expect(suiting([odd!], [been('reed', '2026-05-06T09:00')], now)).toBeNull();
  // Two that say of neither what kind they are have no kind in common.
  const unsaid = coming('unsaid', '2026-07-18T19:00', { category: '' });
  expect(suiting([unsaid], [been('reed', '2026-05-06T09:00', { category: '' })], now)).toBeNull();
  expect(suiting([odd!], [], now)).toBeNull();
  expect(suiting([], [been('reed', '2026-05-06T09:00')], now)).toBeNull();
});

test('never one that is past, and of two alike always the sooner', () => {
  const day = fc
    .integer({ min: -60, max: 300 })
    .map((n) => new Date(Date.parse('2026-07-09T10:00:00.000Z') + n * 7 * 86_400_000).toISOString());
  fc.assert(
    fc.property(fc.uniqueArray(day, { minLength: 1, maxLength: 12 }), (days) => {
      const events = days.map((at) => coming(at, at.slice(0, 16), { firstOf: 'same', startsAt: at }));
      const found = suiting(events, [been('same', '2026-06-04T10:00')], now);
      const ahead = days.filter((at) => at > now).sort();
      expect(found?.startsAt).toBe(ahead[0]);
    }),
  );
});
