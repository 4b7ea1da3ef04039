import fc from 'fast-check';
import { expect, test } from 'vitest';
import { balanceDue } from './balanceDue.ts';

const supper = { startsAt: '2026-10-17T21:00:00.000Z', zone: 'America/Halifax', balanceDays: 14 };

test('what is owed is due so many days before, a little later for whoever books late, and never after the start', () => {
  expect(balanceDue(supper, '2026-08-01T12:00:00.000Z')).toBe('2026-10-03T21:00:00.000Z');
  expect(balanceDue(supper, '2026-10-10T15:00:00.000Z')).toBe('2026-10-12T15:00:00.000Z');
  expect(balanceDue(supper, '2026-10-17T12:00:00.000Z')).toBe(supper.startsAt);
  expect(balanceDue({ ...supper, balanceDays: 0 }, '2026-08-01T12:00:00.000Z')).toBe(supper.startsAt);
  expect(balanceDue({ ...supper, startsAt: null }, '2026-08-01T12:00:00.000Z')).toBeNull();
});

test('the hour on the clock stays when the clocks change in between', () => {
  // Halifax goes back an hour on 1 November 2026.
  expect(balanceDue({ ...supper, startsAt: '2026-11-07T22:00:00.000Z' }, '2026-08-01T12:00:00.000Z')).toBe(
    '2026-10-24T21:00:00.000Z',
  );
});

test('more days before are never later, and booking later never gives less time', () => {
  const at = fc
    .integer({ min: 0, max: 200 * 24 })
    .map((h) => new Date(Date.parse('2026-05-01T00:00:00.000Z') + h * 3_600_000).toISOString());
  fc.assert(
    fc.property(at, at, fc.nat(60), fc.nat(60), (a, b, days, more) => {
      const due = (bookedAt: string, balanceDays: number) =>
        balanceDue({ ...supper, balanceDays }, bookedAt)!;
      expect(due(a, days + more) <= due(a, days)).toBe(true);
      const [early, late] = a < b ? [a, b] : [b, a];
      expect(due(early, days) <= due(late, days)).toBe(true);
      expect(due(a, days) <= supper.startsAt).toBe(true);
    }),
  );
});
