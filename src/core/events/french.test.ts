import { expect, test } from 'vitest';
import { docOf } from '#core/text/doc.ts';
import { emptyDoc } from '#core/text/types.ts';
import { besideNow, digestOf, frenchStanding, hasFrench, type PageText, textFor } from './french.ts';

const nothing: PageText = { publicTitle: '', subtitle: '', summary: '', description: emptyDoc };
const english: PageText = { ...nothing, publicTitle: 'Heron Count', description: docOf('Meet at dusk.') };

test('digests are those of FNV-1a', () => {
  // From the test suite of its authors.
  expect(digestOf('')).toBe('811c9dc5');
  expect(digestOf('a')).toBe('e40c292c');
  expect(digestOf('foobar')).toBe('bf9cf968');
});

test('a text is the same text whatever order its parts are kept in', () => {
  const text = { type: 'text', text: 'Come', marks: [{ type: 'bold' }] } as const;
  const { marks, ...rest } = text;
  const doc = (inline: object) =>
    ({ type: 'doc', content: [{ type: 'paragraph', content: [inline] }] }) as never;
  expect(digestOf(doc({ marks, ...rest }))).toBe(digestOf(doc(text)));
  expect(digestOf(doc(rest))).not.toBe(digestOf(doc(text)));
});

test('French is missing where English says something, and lags once the English is another', () => {
  expect(frenchStanding(english, nothing, {})).toEqual({ publicTitle: 'missing', description: 'missing' });
  const french = { ...nothing, publicTitle: 'Comptage des hérons' };
  const beside = besideNow(english, nothing, french, {});
  expect(Object.keys(beside)).toEqual(['publicTitle']);
  expect(frenchStanding(english, french, beside)).toEqual({ publicTitle: 'there', description: 'missing' });
  const renamed = { ...english, publicTitle: 'Heron Count by night' };
  expect(frenchStanding(renamed, french, beside).publicTitle).toBe('lags');
  // Looked over and changed, it stands beside the English of now; what was not touched lags on.
  const again = besideNow(renamed, french, { ...french, publicTitle: 'Comptage de nuit' }, beside);
  expect(frenchStanding(renamed, { ...french, publicTitle: 'Comptage de nuit' }, again).publicTitle).toBe(
    'there',
  );
  expect(besideNow(renamed, french, french, beside)).toEqual(beside);
});

test('a reader gets French where it is there, text by text, and English for the rest', () => {
  const french = { ...nothing, publicTitle: 'Comptage des hérons', summary: '  ' };
  expect(textFor(english, french, 'fr')).toEqual({ ...english, publicTitle: 'Comptage des hérons' });
  expect(textFor(english, french, 'en')).toBe(english);
  expect(hasFrench(nothing)).toBe(false);
  expect(hasFrench(french)).toBe(true);
});
