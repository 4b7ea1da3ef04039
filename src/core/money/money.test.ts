import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { isCurrency, plainAmount, readAmount, sameFigure, sayAmount, sumsOf } from './amount.ts';

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

test('a price keeps its figure in another currency, as far as there are such amounts', () => {
  expect(sameFigure(2500, 'CAD', 'JPY')).toBe(25);
  expect(sameFigure(25, 'JPY', 'CAD')).toBe(2500);
  expect(sameFigure(2500, 'CAD', 'TND')).toBe(25_000);
  expect(sameFigure(2550, 'CAD', 'JPY')).toBe(26);
  expect(sameFigure(2550, 'CAD', 'EUR')).toBe(2550);
});

test('sums never mix currencies; that of the organization comes first, and what is nothing is left out', () => {
  const of = (amount: number, currency: string) => ({ amount, currency });
  expect(sumsOf([of(5, 'USD'), of(7, 'CAD'), of(6, 'EUR'), of(2, 'USD')], 'CAD')).toEqual([
    of(7, 'CAD'),
    of(6, 'EUR'),
    of(7, 'USD'),
  ]);
  expect(sumsOf([of(5, 'USD'), of(-5, 'USD')], 'CAD')).toEqual([]);
  expect([isCurrency('CHF'), isCurrency('XQQ'), isCurrency('chf')]).toEqual([true, false, false]);
});
