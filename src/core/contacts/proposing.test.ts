import { expect, test } from 'vitest';
import { noTexts } from './attributes.ts';
import { type OwnDetails, sortWishes } from './proposing.ts';

const mai: OwnDetails = {
  given: 'Mai',
  family: 'Wren',
  birthDate: null,
  street: '1 Chapel Hill',
  postalCode: null,
  language: 'en',
  ...noTexts,
};

test('blanks are filled and own matters change at once; what staff have is asked about', () => {
  expect(
    sortWishes(mai, {
      given: ' Mai ',
      family: 'Teal',
      birthDate: '1980-05-03',
      street: '',
      language: 'fr',
      dietary: 'no nuts',
    }),
  ).toEqual({
    direct: { birthDate: '1980-05-03', language: 'fr', dietary: 'no nuts' },
    proposed: [
      { field: 'family', before: 'Wren', after: 'Teal' },
      { field: 'street', before: '1 Chapel Hill', after: null },
    ],
  });
});
test('said again it changes nothing, and a language is never taken away', () => {
  expect(sortWishes(mai, { ...mai, language: '' })).toEqual({ direct: {}, proposed: [] });
  expect(sortWishes({ ...mai, dietary: 'no nuts' }, { dietary: '' }).direct).toEqual({ dietary: null });
});
