import { describe, expect, test } from 'vitest';
import { splitName } from '#core/contacts/names.ts';
import { namesInCell } from './couples.ts';

const said = (cell: string) =>
  namesInCell(cell).names.map((name) => {
    const { given, family } = splitName(name);
    return `${given}|${family}`;
  });

describe('whole names', () => {
  test.each([
    ['Dr. Marie-Ève Côté, PhD', 'Marie-Ève', 'Côté'],
    ['Prof. Dr. Odile d’Entremont', 'Odile', 'd’Entremont'],
    ['van der Berg, Hendrik Jr.', 'Hendrik', 'van der Berg Jr.'],
    ['Thad Hollis Jr.', 'Thad', 'Hollis Jr.'],
    ['Hollis, Thad, Jr.', 'Thad', 'Hollis Jr.'],
    ['J. R. Hollis III', 'J. R.', 'Hollis III'],
    ['Dr. Hollis, Thad', 'Thad', 'Hollis'],
    ['Anna St. John', 'Anna', 'St. John'],
    ['M. Pascal Kettle', 'Pascal', 'Kettle'],
    ['M. Kettle', 'M.', 'Kettle'],
    ['Mrs Vetch', '', 'Vetch'],
    ['Md Rahman', 'Md', 'Rahman'],
    ['Xanthe', 'Xanthe', ''],
    ['de la Cruz', '', 'de la Cruz'],
    ['Ben Hollis', 'Ben', 'Hollis'],
    ['Al van der Berg', 'Al', 'van der Berg'],
  ])('%s', (whole, given, family) => expect(splitName(whole)).toEqual({ given, family }));
});

describe('names in one cell', () => {
  test.each([
    ['Thad & Marie Hollis', ['Thad|Hollis', 'Marie|Hollis']],
    ['Hollis, Thad and Marie', ['Thad|Hollis', 'Marie|Hollis']],
    ['Hollis, Thad & Mary Jane', ['Thad|Hollis', 'Mary Jane|Hollis']],
    ['Hollis, Thad & Côté, Marie', ['Thad|Hollis', 'Marie|Côté']],
    ['Thad Hollis / Marie Côté', ['Thad|Hollis', 'Marie|Côté']],
    ['Thad Hollis & Marie', ['Thad|Hollis', 'Marie|Hollis']],
    ['Jean-Luc et Marie Gagné', ['Jean-Luc|Gagné', 'Marie|Gagné']],
    ['Dr. Thad & Mrs. Marie Hollis', ['Thad|Hollis', 'Marie|Hollis']],
    ['J & M Hollis', ['J|Hollis', 'M|Hollis']],
  ])('%s names two', (cell, wanted) => expect(said(cell)).toEqual(wanted));
  test.each([
    ['Mr. and Mrs. John Vetch', 'John|Vetch', 'Mr.'],
    ['Mr & Mrs Vetch', '|Vetch', 'Mr'],
    ['Thad Hollis +1', 'Thad|Hollis', '+1'],
    ['Thad Hollis and guest', 'Thad|Hollis', 'guest'],
    ['Thad Hollis & family', 'Thad|Hollis', 'family'],
    ['Thad Hollis (board)', 'Thad|Hollis', '(board)'],
    ['Andrew Sandy', 'Andrew|Sandy', ''],
    ['Hollis/Vetch', 'Hollis/Vetch|', ''],
  ])('%s names one', (cell, wanted, rest) => {
    expect(said(cell)).toEqual([wanted]);
    expect(namesInCell(cell).rest.join(' ')).toBe(rest);
  });
  test('a list of first names before one family name is a list', () => {
    expect(namesInCell('Anne, Bob and Carl Hollis').names).toHaveLength(3);
    expect(namesInCell('Anne & Bob & Carl Hollis').names).toHaveLength(3);
  });
  test('companies keep their name, and nothing names nobody', () => {
    expect(namesInCell('Kettle & Sons Ltd').names).toEqual(['Kettle & Sons Ltd']);
    expect(namesInCell('Marsh and Fen Books').names).toEqual(['Marsh and Fen Books']);
    expect(namesInCell('  ').names).toEqual([]);
  });
});
