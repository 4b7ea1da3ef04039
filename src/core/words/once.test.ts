import { expect, test } from 'vitest';
import { once } from './once.ts';

test('what was made is kept, for each thing asked with', () => {
  let made = 0;
  const format = once((locale: string, options?: { digits: number }) => {
    made += 1;
    return `${locale} ${options?.digits}`;
  });
  expect([format('en', { digits: 2 }), format('en', { digits: 2 }), made]).toEqual(['en 2', 'en 2', 1]);
  expect([format('fr', { digits: 2 }), format('en', { digits: 3 }), format('en'), made]).toEqual([
    'fr 2',
    'en 3',
    'en undefined',
    4,
  ]);
});
