import { expect, test } from 'vitest';
import { shiftMeets } from './narrowing.ts';

const landing = { role: 'Landing', place: 'Sluice Landing' };
const asks = (column: string, is: 'any of' | 'none of' | 'given' | 'missing', ...values: string[]) => ({
  column,
  is,
  values,
});

test('a shift is chosen by its role and its place, all that is asked together', () => {
  expect(shiftMeets(landing, [])).toBe(true);
  expect(shiftMeets(landing, [asks('role', 'any of', 'Safety boat', 'Landing')])).toBe(true);
  expect(shiftMeets(landing, [asks('role', 'any of', 'Safety boat')])).toBe(false);
  expect(shiftMeets(landing, [asks('role', 'none of', 'Landing')])).toBe(false);
  expect(shiftMeets(landing, [asks('role', 'given'), asks('place', 'any of', 'Fen Hide')])).toBe(false);
  // Where none is chosen yet it asks for nothing.
  expect(shiftMeets(landing, [asks('place', 'any of')])).toBe(true);
  expect(shiftMeets({ role: 'Landing', place: '' }, [asks('place', 'missing')])).toBe(true);
});

test('what no shift has is never met', () => {
  expect(shiftMeets(landing, [asks('offer', 'missing')])).toBe(false);
});
