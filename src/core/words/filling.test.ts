import { expect, test } from 'vitest';
import { fillIn } from './filling.ts';

test('numbers stand with the noun that the language wants', () => {
  const waiting = '{{people:person|people}} waiting in {{parties:party|parties}}.';
  expect(fillIn(waiting, { people: 1, parties: 1 }, 'en')).toBe('1 person waiting in 1 party.');
  expect(fillIn(waiting, { people: 1200, parties: 2 }, 'en')).toBe('1,200 people waiting in 2 parties.');
  // None is singular in French and plural in English (CLDR).
  expect(fillIn('{{n:place|places}}', { n: 0 }, 'fr')).toBe('0 place');
  expect(fillIn('{{n:seat|seats}}', { n: 0 }, 'en')).toBe('0 seats');
  expect(fillIn({ one: '{{count}} place', other: '{{count}} places' }, { count: 1 }, 'fr')).toBe('1 place');
});

test('amounts are said with their currency; what is not given leaves nothing behind', () => {
  expect(fillIn('{{owed}} still owed.', { owed: { amount: 2500, currency: 'CAD' } }, 'en')).toBe(
    '$25 still owed.',
  );
  expect(fillIn('First: {{role}}.', {}, 'en')).toBe('First: .');
});
