import { expect, test } from 'vitest';
import { type KindLook, kindIn, Register } from './kinds.ts';

test('a kind is said in French where it has a French name', () => {
  const french = { childcare: 'garde d’enfants', plain: '' };
  expect(kindIn('childcare', french, 'fr')).toBe('garde d’enfants');
  expect(kindIn('childcare', french, 'en')).toBe('childcare');
  expect(kindIn('plain', french, 'fr')).toBe('plain');
  expect(kindIn('walk', french, 'fr')).toBe('walk');
});

test('the register knows a kind in any case of letters, draws as they are written, and what has French', () => {
  const look = (sort: string, name: string, french: string, pictureId: string | null = null): KindLook => ({
    sort,
    name,
    french,
    shape: 'reed',
    colour: 'ochre',
    pictureId,
  });
  const register = new Register([
    look('category', 'Walk', 'promenade', 'p1'),
    look('category', 'talk', ''),
    look('draw', 'soup', 'soupe'),
    look('draw', 'walk', 'marche'),
  ]);
  expect(register.of('wALK')).toMatchObject({ name: 'Walk', pictureId: 'p1' });
  expect(register.of('soup')).toBeNull();
  expect(register.inFrench([{ category: 'WALK', draws: [] }])).toEqual({ Walk: 'promenade' });
  expect(
    register.inFrench([
      { category: 'talk', draws: ['soup'] },
      { category: '', draws: ['Soup'] },
    ]),
  ).toEqual({ soup: 'soupe' });
  expect(register.inFrench([])).toEqual({});
});
