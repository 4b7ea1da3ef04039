import fc from 'fast-check';
import { expect, test } from 'vitest';
import { minuteOf } from '#core/time/dates.ts';
import {
  type BoardShift,
  daysOf,
  fillOf,
  isShown,
  lanesOf,
  moved,
  snap,
  snapped,
  spanOf,
  stretched,
  ticksEvery,
  ticksOf,
} from './board.ts';

let count = 0;
const shift = (role: string, from: string, to: string, more: Partial<BoardShift> = {}): BoardShift => ({
  id: String(count++),
  role,
  place: 'Gate',
  startsLocal: from.length > 5 ? from : `2026-08-08T${from}`,
  endsLocal: to.length > 5 ? to : `2026-08-08T${to}`,
  least: 1,
  wished: 2,
  filled: 0,
  ...more,
});

test('the lane that lacks most comes first, then the one with most open places, then by name', () => {
  const lanes = lanesOf(
    [
      shift('Tea', '09:00', '12:00', { filled: 2 }),
      shift('Guide', '09:00', '12:00', { filled: 1 }),
      shift('Boat', '09:00', '12:00', { least: 2, filled: 0 }),
      shift('aid', '09:00', '12:00', { filled: 2 }),
      shift('Guide', '12:00', '15:00', { filled: 1 }),
    ],
    'role',
  );
  expect(lanes.map((l) => [l.name, l.lacking, l.open])).toEqual([
    ['Boat', 2, 2],
    ['Guide', 0, 2],
    ['aid', 0, 0],
    ['Tea', 0, 0],
  ]);
});

test('one that is needed weighs more than many that are only wished', () => {
  const lanes = lanesOf(
    [
      shift('Wished', '09:00', '12:00', { least: 0, wished: 6 }),
      shift('Needed', '09:00', '12:00', { least: 1, wished: 1 }),
    ],
    'role',
  );
  expect(lanes.map((l) => l.name)).toEqual(['Needed', 'Wished']);
});

test('shifts at one time stand under each other; those that touch in one row', () => {
  const [lane] = lanesOf(
    [
      shift('Tea', '12:00', '15:00', { id: 'c' }),
      shift('Tea', '09:00', '12:00', { id: 'a' }),
      shift('Tea', '11:00', '13:00', { id: 'b' }),
    ],
    'role',
  );
  expect(lane!.placed.map((p) => [p.shift.id, p.row])).toEqual([
    ['a', 0],
    ['b', 1],
    ['c', 0],
  ]);
  expect(lane!.rows).toBe(2);
  expect(lanesOf([shift('Tea', '09:00', '10:00'), shift('Gate', '09:00', '10:00')], 'place')).toHaveLength(1);
});

test('no two shifts of a row overlap, and none is lost', () => {
  const quarter = fc.integer({ min: 0, max: 190 });
  fc.assert(
    fc.property(fc.array(fc.tuple(quarter, fc.integer({ min: 1, max: 40 })), { maxLength: 60 }), (times) => {
      const at = (q: number) =>
        moved({ startsLocal: '2026-08-08T00:00', endsLocal: '2026-08-08T00:00' }, q * 15).startsLocal;
      const shifts = times.map(([from, length]) => shift('Tea', at(from), at(from + length)));
      const placed = lanesOf(shifts, 'role').flatMap((l) => l.placed);
      expect(placed).toHaveLength(shifts.length);
      for (const a of placed)
        for (const b of placed)
          if (a !== b && a.row === b.row)
            expect(a.shift.endsLocal <= b.shift.startsLocal || b.shift.endsLocal <= a.shift.startsLocal).toBe(
              true,
            );
    }),
  );
});

test('what is seen goes from whole hour to whole hour, over midnight too', () => {
  const shifts = [shift('Tea', '09:30', '12:00'), shift('Watch', '22:00', '2026-08-09T02:15')];
  expect(spanOf(shifts)).toEqual({ from: minuteOf('2026-08-08T09:00'), to: minuteOf('2026-08-09T03:00') });
  expect(spanOf([])).toBeNull();
  expect(daysOf([...shifts, shift('Up', '2026-08-07T10:00', '2026-08-07T12:00')])).toEqual([
    '2026-08-07',
    '2026-08-08',
  ]);
});

test('lines stand at hours that can be read beside each other', () => {
  expect([80, 46, 30, 16, 8, 4, 1].map(ticksEvery)).toEqual([1, 1, 2, 3, 6, 12, 24]);
  const from = minuteOf('2026-08-08T09:00');
  expect(ticksOf({ from, to: from + 300 }, 2).map((m) => (m - from) / 60)).toEqual([1, 3, 5]);
});

test('moved it is as long as it was; stretched it is at least a quarter of an hour and at most a day', () => {
  const s = { startsLocal: '2026-08-08T22:00', endsLocal: '2026-08-08T23:30' };
  expect(moved(s, 60)).toEqual({ startsLocal: '2026-08-08T23:00', endsLocal: '2026-08-09T00:30' });
  expect(stretched(s, 'end', 45)).toEqual({ startsLocal: s.startsLocal, endsLocal: '2026-08-09T00:15' });
  expect(stretched(s, 'start', 30)).toEqual({ startsLocal: '2026-08-08T22:30', endsLocal: s.endsLocal });
  expect([7, 8, -7, -8].map(snapped)).toEqual([0, 15, -0, -15]);
  fc.assert(
    fc.property(
      fc.constantFrom('start' as const, 'end' as const),
      fc.integer({ min: -3000, max: 3000 }),
      (edge, by) => {
        const to = stretched(s, edge, by);
        const lasts = minuteOf(to.endsLocal) - minuteOf(to.startsLocal);
        expect(lasts).toBeGreaterThanOrEqual(snap);
        expect(lasts).toBeLessThanOrEqual(1440);
        expect(edge === 'end' ? to.startsLocal : to.endsLocal).toBe(
          edge === 'end' ? s.startsLocal : s.endsLocal,
        );
      },
    ),
  );
});

test('a shift is short, open or full; only gaps are shown where that is asked', () => {
  const is = (filled: number) => fillOf({ least: 1, wished: 2, filled });
  expect([0, 1, 2, 3].map(is)).toEqual(['short', 'open', 'full', 'full']);
  const s = { ...shift('Safety boat', '09:00', '12:00', { filled: 2 }), name: 'Early' };
  const shown = (words: string, gaps = false) => isShown(s, ['Wen Alder'], { words, gaps });
  expect([shown(''), shown('boat'), shown(' GATE'), shown('early'), shown('alder'), shown('tea')]).toEqual([
    true,
    true,
    true,
    true,
    true,
    false,
  ]);
  expect(shown('', true)).toBe(false);
});
