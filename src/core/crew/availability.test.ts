import fc from 'fast-check';
import { expect, test } from 'vitest';
import { shiftDate } from '#core/time/dates.ts';
import {
  type Availability,
  availabilityOf,
  cellsIn,
  hoursOffered,
  isThere,
  problemsWithAvailability,
  stretchesBetween,
} from './availability.ts';
import { instantsBetween } from './availableAt.ts';

const on = (...stretches: [string, string, string][]): Availability => ({
  kind: 'dates',
  stretches: stretches.map(([date, from, to]) => ({ date, from, to })),
});
const every = (...stretches: [number, string, string][]): Availability => ({
  kind: 'week',
  stretches: stretches.map(([weekday, from, to]) => ({ weekday, from, to })),
});
const shift = (from: string, to: string) => ({ startsLocal: from, endsLocal: to });

test('a shift lies within one stretch; what overlaps or touches is one, also over midnight', () => {
  const there = on(
    ['2026-08-08', '09:00', '12:00'],
    ['2026-08-08', '11:00', '13:00'],
    ['2026-08-08', '13:00', '15:00'],
    ['2026-08-08', '20:00', '24:00'],
    ['2026-08-09', '00:00', '02:00'],
  );
  expect(isThere(there, shift('2026-08-08T09:00', '2026-08-08T15:00'))).toBe(true);
  expect(isThere(there, shift('2026-08-08T14:00', '2026-08-08T15:01'))).toBe(false);
  expect(isThere(there, shift('2026-08-08T22:00', '2026-08-09T02:00'))).toBe(true);
  expect(isThere(there, shift('2026-08-08T22:00', '2026-08-09T02:15'))).toBe(false);
  expect(isThere(null, shift('2026-08-08T22:00', '2026-08-09T02:15'))).toBe(true);
  expect(isThere(on(), shift('2026-08-08T09:00', '2026-08-08T10:00'))).toBe(false);
});

test('hours that are offered twice count once', () => {
  expect(
    hoursOffered({
      kind: 'dates',
      stretches: [
        { date: '2026-08-08', from: '09:00', to: '12:00' },
        { date: '2026-08-08', from: '11:00', to: '13:30' },
        { date: '2026-08-09', from: '22:00', to: '24:00' },
      ],
    }),
  ).toBe(6.5);
  expect(
    hoursOffered({
      kind: 'week',
      stretches: [
        { weekday: 6, from: '08:00', to: '10:00' },
        { weekday: 0, from: '08:00', to: '10:00' },
      ],
    }),
  ).toBe(4);
  expect(hoursOffered({ kind: 'week', stretches: [] })).toBe(0);
});

test('of a week it is the day of the week that counts: 8 August 2026 is a Saturday', () => {
  const there = every([6, '08:00', '18:00'], [0, '08:00', '12:00']);
  expect(isThere(there, shift('2026-08-08T09:00', '2026-08-08T17:00'))).toBe(true);
  expect(isThere(there, shift('2026-08-09T09:00', '2026-08-09T17:00'))).toBe(false);
  expect(isThere(there, shift('2026-08-10T09:00', '2026-08-10T10:00'))).toBe(false);
  expect(stretchesBetween(there, '2026-08-08', '2026-08-16')).toHaveLength(4);
});

test('in a night in which the clock goes back, a stretch is as long as it lasts', () => {
  const [[from, to]] = instantsBetween(
    on(['2026-10-31', '22:00', '24:00'], ['2026-11-01', '00:00', '06:00']),
    '2026-10-31',
    '2026-11-01',
    'America/Halifax',
  ) as [[string, string]];
  expect((Date.parse(to) - Date.parse(from)) / 3_600_000).toBe(9);
});

test('what is painted is what is said, and back', () => {
  const days = ['2026-08-08', '2026-08-09', '2026-08-10'];
  const cell = fc.record({ day: fc.constantFrom(...days), hour: fc.nat(23) });
  fc.assert(
    fc.property(fc.uniqueArray(cell, { selector: (c) => `${c.day} ${c.hour}` }), (cells) => {
      const said = availabilityOf('dates', days, cells);
      const inOrder = [...cells].sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.hour - b.hour));
      expect(cellsIn(said, days)).toEqual(inOrder);
      expect(problemsWithAvailability(said)).toEqual([]);
      // Every painted hour, and no other, is one somebody can be put on.
      for (const day of days)
        for (let hour = 0; hour < 24; hour += 1) {
          const end =
            hour === 23 ? `${shiftDate(day, 1)}T00:00` : `${day}T${String(hour + 1).padStart(2, '0')}:00`;
          expect(isThere(said, shift(`${day}T${String(hour).padStart(2, '0')}:00`, end))).toBe(
            cells.some((c) => c.day === day && c.hour === hour),
          );
        }
    }),
    { numRuns: 40 },
  );
  expect(cellsIn(every([6, '08:30', '10:00']), ['6'])).toEqual([{ day: '6', hour: 9 }]);
});

test('what ends before it begins is said where it stands', () => {
  expect(
    problemsWithAvailability(on(['2026-08-08', '09:00', '10:00'], ['2026-08-08', '12:00', '12:00'])),
  ).toEqual([{ path: 'stretches.1.to', code: 'stretch-ends-before' }]);
});
