import { describe, expect, test } from 'vitest';
import { fold, splitName, tidyName } from './names.ts';
import { isEmail, readPhone, sayPhone } from './reach.ts';
import { searchWords } from './search.ts';

describe('names', () => {
  test('fold away accents, case and punctuation', () => {
    expect(fold("Ó  HÁRA-Peña's")).toBe('o hara penas');
    expect(fold('Søren Łuk')).toBe('soren luk');
    expect(fold('CŒUR Þóra Đorđe Weiß')).toBe('coeur thora dorde weiss');
    expect(fold('Иван 李')).toBe('иван 李');
  });
  test('are split in either order, with titles and particles', () => {
    expect(splitName('Hollis, Thad')).toEqual({ given: 'Thad', family: 'Hollis' });
    expect(splitName('Dr Frances de la Cruz')).toEqual({ given: 'Frances', family: 'de la Cruz' });
    expect(splitName('  Siobhan  Winterbourne')).toEqual({ given: 'Siobhan', family: 'Winterbourne' });
    expect(splitName('Cher')).toEqual({ given: 'Cher', family: '' });
  });
  test('are tidied only when they are shouted or whispered', () => {
    expect(tidyName('RASMUSSEN')).toBe('Rasmussen');
    expect(tidyName("o'hara")).toBe("O'Hara");
    expect(tidyName('McAllister')).toBe('McAllister');
  });
});

describe('reach', () => {
  test('phones become E.164 by the organization’s country', () => {
    for (const written of ['(902) 555-0161', '902.555.0161', '+1 902 555 0161', '19025550161'])
      expect(readPhone(written, 'CA')).toBe('+19025550161');
    expect(readPhone('call me', 'CA')).toBeNull();
    expect(sayPhone('+19025550161', 'CA')).toBe('(902) 555-0161');
  });
  test('emails are recognised', () => {
    expect(isEmail('imani.lefevre934@fenmail.example')).toBe(true);
    for (const wrong of ['imani@', 'a b@c.de', '@fenmail.example', 'x@y', `${'a'.repeat(250)}@b.example`])
      expect(isEmail(wrong)).toBe(false);
  });
  test('search text is cut into words, telephones into digits', () => {
    expect(searchWords('Delacroix-Ng')).toEqual(['delacroix', 'ng']);
    expect(searchWords('(902) 555')).toEqual(['902555']);
    expect(searchWords('x '.repeat(500)).length).toBe(8);
  });
});
