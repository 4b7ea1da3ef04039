import { expect, test } from 'vitest';
import { totalsOf, worthOf } from './hourTotals.ts';

test('hours add up over the years, the most first', () => {
  const of = (key: string, year: string, hours: number, shifts = 1) => ({
    key,
    label: key,
    year,
    hours,
    shifts,
  });
  expect(
    totalsOf([of('Ben', '2025', 2.1), of('Ann', '2026', 3, 2), of('Ben', '2026', 0.2), of('Cy', '2026', 3)]),
  ).toEqual({
    rows: [
      { key: 'Ann', label: 'Ann', shifts: 2, hours: 3, years: { '2026': 3 } },
      { key: 'Cy', label: 'Cy', shifts: 1, hours: 3, years: { '2026': 3 } },
      { key: 'Ben', label: 'Ben', shifts: 2, hours: 2.3, years: { '2025': 2.1, '2026': 0.2 } },
    ],
    years: ['2025', '2026'],
  });
  expect(totalsOf([])).toEqual({ rows: [], years: [] });
});

test('their worth is to the cent, and nothing where nobody said how much', () => {
  expect(worthOf(2.75, 2250)).toBe(6188);
  expect(worthOf(0, 2250)).toBe(0);
  expect(worthOf(10, null)).toBe(null);
});
