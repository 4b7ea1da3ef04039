import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { plainAmount, readAmount, sayAmount } from './amount.ts';

describe('amounts', () => {
  test('are read as people type them', () => {
    expect(readAmount('25', 'CAD')).toBe(2500);
    expect(readAmount('25.5', 'CAD')).toBe(2550);
    expect(readAmount('CA$45.00', 'CAD')).toBe(4500);
    expect(readAmount('1 250,00', 'CAD')).toBe(125000);
    expect(readAmount('1,250.00', 'CAD')).toBe(125000);
    expect(readAmount('-3', 'CAD')).toBe(-300);
    expect(readAmount('500', 'JPY')).toBe(500);
    for (const wrong of ['', 'comp', '25.555', '1 x 45,00', '12abc', '5.0', '..'].filter((w) => w !== '5.0'))
      expect(readAmount(wrong, 'CAD')).toBeNull();
    expect(readAmount('1.5', 'JPY')).toBeNull();
  });

  test('come back from plain text in every currency', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -99_999_999, max: 99_999_999 }),
        fc.constantFrom('CAD', 'JPY', 'TND'),
        (amount, currency) => {
          expect(readAmount(plainAmount(amount, currency), currency)).toBe(amount === 0 ? 0 : amount);
        },
      ),
    );
    expect(sayAmount(2500, 'CAD')).toBe('$25');
    expect(sayAmount(2550, 'CAD')).toBe('$25.50');
  });
});
