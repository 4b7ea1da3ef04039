import { expect, test } from 'vitest';
import { bookingsEn } from './bookings.en.ts';
import { problemsEn } from './problems.en.ts';
import { isProblemCode, sayProblem } from './problems.ts';
import { refusalsEn } from './refusals.en.ts';
import './spoken.ts';

const sources = Object.values(
  import.meta.glob<string>(
    ['../**/*.ts', '../../contract/*.ts', '../../server/**/*.ts', '!./**', '!../**/*.test.ts'],
    {
      query: '?raw',
      import: 'default',
      eager: true,
    },
  ),
).join('\n');

test('every refusal is one that something is refused with, and no public problem says the same', () => {
  const codes = Object.keys(refusalsEn);
  expect(codes.filter((code) => !sources.includes(`'${code}'`))).toEqual([]);
  expect(codes.filter((code) => code in problemsEn || code in bookingsEn)).toEqual([]);
});

test('what staff are refused is said like the rest, with the form of its number', () => {
  expect(isProblemCode('offer-in-use')).toBe(true);
  expect(sayProblem('offer-in-use', { count: 1 })).toContain('An offer that 1 registration uses');
  expect(sayProblem('less-taken', { due: { amount: 1250, currency: 'CAD' } })).toMatch(/12\.50 is due/u);
  expect(isProblemCode('no such code')).toBe(false);
});
