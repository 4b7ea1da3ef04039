import fc from 'fast-check';
import { expect, test } from 'vitest';
import { isCorrection } from './naming.ts';

const name = (given: string, family: string, birthDate: string | null = null) => ({
  given,
  family,
  birthDate,
});

test('a corrected spelling is the same person', () => {
  expect(isCorrection(name('Tova', 'Lindqvist'), name('Tove', 'Lindqvist'))).toBe(true);
  expect(isCorrection(name('Théo', 'Nguyen'), name('Theo', 'Nguyen'))).toBe(true);
  expect(isCorrection(name('Will', 'Sedge'), name('William', 'Sedge'))).toBe(true);
  expect(isCorrection(name('Margarte', 'Sedeg'), name('Margaret', 'Sedge'))).toBe(true);
  expect(isCorrection(name('Tova', 'L', '2015-01-02'), name('Tove', 'L', '2015-01-02'))).toBe(true);
});

test('another person is not', () => {
  expect(isCorrection(name('Tova', 'Lindqvist'), name('Nils', 'Lindqvist'))).toBe(false);
  expect(isCorrection(name('Jun', 'Baptiste'), name('Jan', 'Lowry'))).toBe(false);
  expect(isCorrection(name('Mia', 'Berg'), name('Ida', 'Berg'))).toBe(false);
  expect(isCorrection(name('Max', 'Berg'), name('Mia', 'Berg'))).toBe(false);
  expect(isCorrection(name('Tova', 'Berg', '2015-01-02'), name('Tove', 'Berg', '2012-03-04'))).toBe(false);
  expect(isCorrection(name('', ''), name('Tova', 'Berg'))).toBe(false);
});

test('it holds both ways, and a name is a correction of itself', () => {
  const person = fc.record({
    given: fc.string({ maxLength: 8 }),
    family: fc.string({ maxLength: 8 }),
    birthDate: fc.constantFrom(null, '2015-01-02', '2016-01-02'),
  });
  fc.assert(
    fc.property(person, person, (a, b) => {
      expect(isCorrection(a, b)).toBe(isCorrection(b, a));
      if (/[a-z]/u.test(a.given)) expect(isCorrection(a, a)).toBe(true);
    }),
  );
});
