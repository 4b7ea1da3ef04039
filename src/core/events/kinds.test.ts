import { expect, test } from 'vitest';
import { kindIn } from './kinds.ts';

test('a kind is said in French where it has a French name', () => {
  const french = { childcare: 'garde d’enfants', plain: '' };
  expect(kindIn('childcare', french, 'fr')).toBe('garde d’enfants');
  expect(kindIn('childcare', french, 'en')).toBe('childcare');
  expect(kindIn('plain', french, 'fr')).toBe('plain');
  expect(kindIn('walk', french, 'fr')).toBe('walk');
});
