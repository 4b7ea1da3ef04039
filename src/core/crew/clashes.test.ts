import fc from 'fast-check';
import { expect, test } from 'vitest';
import { sayAgainst } from '#core/words/against.ts';
import { clashesOf, hoursOf, restHours, type Stint } from './clashes.ts';

test('shifts clash when they overlap, not when they touch', () => {
  const shift = (shiftId: string, from: string, to: string) => ({
    shiftId,
    label: shiftId,
    startsAt: `2026-08-${from}:00.000Z`,
    endsAt: `2026-08-${to}:00.000Z`,
  });
  const morning = shift('morning', '08T12:00', '08T16:00');
  expect(clashesOf(shift('noon', '08T15:59', '08T18:00'), [morning])[0]!.kind).toBe('overlap');
  expect(clashesOf(shift('noon', '08T16:00', '08T18:00'), [morning])).toEqual([]);
  expect(clashesOf(shift('night', '08T22:00', '09T03:00'), [morning])[0]).toMatchObject({
    kind: 'short rest',
  });
  expect(hoursOf(morning.startsAt, morning.endsAt)).toBe(4);
});

const hour = 3_600_000;
const midnight = Date.parse('2026-08-08T00:00:00.000Z');
const stint = (shiftId: string, from: number, hours: number): Stint => ({
  shiftId,
  label: shiftId,
  startsAt: new Date(midnight + from * hour).toISOString(),
  endsAt: new Date(midnight + (from + hours) * hour).toISOString(),
});

test('what clashes one way clashes the other, and agrees with counting the hours one by one', () => {
  const half = fc.integer({ min: 0, max: 96 }).map((n) => n / 2);
  const length = fc.integer({ min: 1, max: 20 }).map((n) => n / 2);
  fc.assert(
    fc.property(half, length, half, length, (a, m, b, n) => {
      const [one, other] = [stint('one', a, m), stint('other', b, n)];
      const kinds = clashesOf(one, [other]).map((c) => c.kind);
      expect(clashesOf(other, [one]).map((c) => c.kind)).toEqual(kinds);
      const halves = (from: number, hours: number) =>
        new Set(Array.from({ length: hours * 2 }, (_, at) => from * 2 + at));
      const mine = halves(a, m);
      const both = [...halves(b, n)].some((h) => mine.has(h));
      const gap = a >= b + n ? a - b - n : b - a - m;
      expect(kinds).toEqual(both ? ['overlap'] : gap > 4 && gap < restHours ? ['short rest'] : []);
    }),
  );
});

test('a shift never clashes with itself, and every clash names the other', () => {
  const wanted = stint('wanted', 8, 4);
  expect(clashesOf(wanted, [wanted])).toEqual([]);
  expect(clashesOf(wanted, [stint('before', 6, 3), stint('after', 11, 3), stint('far', 40, 2)])).toEqual([
    { kind: 'overlap', withShiftId: 'before', label: 'before', hours: 0 },
    { kind: 'overlap', withShiftId: 'after', label: 'after', hours: 0 },
  ]);
  const [late] = clashesOf(stint('late', 20, 3), [stint('early', 29, 4)]);
  expect(late).toMatchObject({ kind: 'short rest', label: 'early', hours: 6 });
  expect(sayAgainst('short rest', { label: 'early', hours: 6 })).toBe('only 6 hours of rest beside early');
});

test('hours are kept to the quarter', () => {
  const at = (minutes: number) => new Date(midnight + minutes * 60_000).toISOString();
  expect([50, 52, 53, 90, 0].map((m) => hoursOf(at(0), at(m)))).toEqual([0.75, 0.75, 1, 1.5, 0]);
});
