import { afterEach, expect, test } from 'vitest';
import { sayRange, sayShortDate } from '#core/time/say.ts';
import { catalogued, speakAs, spokenIn } from './language.ts';

afterEach(() => {
  speakAs(() => 'en');
  catalogued(['en']);
});

test('dates are said in the language that is spoken', () => {
  catalogued(['en', 'fr']);
  speakAs(() => 'fr');
  expect(sayShortDate('2026-08-08', true)).toBe('sam. 8 août');
  expect(sayRange('2026-03-06T20:30', '2026-03-07T00:30')).toContain('le lendemain');
  expect(sayShortDate('2026-08-08', true, 'en')).toBe('Sat 8 Aug');
});

test('a language there is no catalogue of is answered in English, dates and all', () => {
  speakAs(() => 'fr');
  expect(spokenIn()).toBe('en');
  expect(sayShortDate('2026-08-08', true)).toBe('Sat 8 Aug');
});
