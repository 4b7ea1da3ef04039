import { describe, expect, test } from 'vitest';
import { bookingsEn } from './bookings.en.ts';
import { bookingsFr } from './bookings.fr.ts';
import { problemsEn } from './problems.en.ts';
import { problemsFr } from './problems.fr.ts';
import { alsoIn, alsoOfBookings, sayProblem } from './problems.ts';

alsoIn('fr', problemsFr);
alsoOfBookings('en', bookingsEn);
alsoOfBookings('fr', bookingsFr);
const en = { ...problemsEn, ...bookingsEn };
const fr = { ...problemsFr, ...bookingsFr };

/** What is not found is named by its English word, which a French sentence goes without. */
const englishOnly: Partial<Record<keyof typeof en, string[]>> = { 'not-found': ['what'] };

const codes = Object.keys(en) as (keyof typeof en)[];
const paramsIn = (text: unknown): string[] =>
  [...new Set([...JSON.stringify(text).matchAll(/\{\{(\w+)\}\}/gu)].map((m) => m[1]!))].sort();

describe('what is wrong, in words', () => {
  test.each(codes)('%s takes the same parameters in both languages, and is another text', (code) => {
    const wanted = paramsIn(en[code]).filter((p) => !englishOnly[code]?.includes(p));
    expect(paramsIn(fr[code])).toEqual(wanted);
    expect(JSON.stringify(fr[code])).not.toBe(JSON.stringify(en[code]));
  });

  test('forms follow the plural rules of each language: none is one in French, and many in English', () => {
    expect(sayProblem('more-named-than-seats', { count: 1, named: 3 })).toBe(
      'There is 1 seat, and 3 people were named.',
    );
    expect(sayProblem('more-named-than-seats', { count: 0, named: 3 })).toContain('There are 0 seats');
    expect(sayProblem('more-named-than-seats', { count: 0, named: 3 }, 'fr')).toContain('Il y a 0 place,');
    expect(sayProblem('more-named-than-seats', { count: 2, named: 3 }, 'fr')).toContain('2 places,');
  });

  test('numbers are written as the language writes them, names as they are', () => {
    expect(sayProblem('too-long', { count: 2000 })).toBe('At most 2,000 characters.');
    expect(sayProblem('too-long', { count: 2000 }, 'fr')).toMatch(/^Au plus 2\s000 caractères\.$/u);
    expect(sayProblem('most-per-order', { most: 4, name: 'Table {{most}}' }, 'fr')).toBe(
      'Au plus 4 « Table {{most}} » par commande.',
    );
  });
});
