import { expect, test } from 'vitest';
import { docOf, plainText } from '#core/text/doc.ts';
import type { Block, Doc } from '#core/text/types.ts';
import { addressesIn, addressesOf, docLedElsewhere, ledElsewhere } from './addresses.ts';

const text =
  'Read https://brackenmere.example/a, or (https://brackenmere.example/b?x=1).\n\nAgain: https://brackenmere.example/a';
const to = (url: string) => `https://here.example/l/${url.at(-1)}`;

test('addresses are found without what stands behind them, each once', () => {
  expect(addressesIn(text)).toEqual(['https://brackenmere.example/a', 'https://brackenmere.example/b?x=1']);
  expect(addressesIn('mailto:a@b.example, http:// , {{own_link}}')).toEqual([]);
});

test('they lead elsewhere; formatted, what is read stays', () => {
  expect(ledElsewhere(text, to)).toBe(
    'Read https://here.example/l/a, or (https://here.example/l/1).\n\nAgain: https://here.example/l/a',
  );
  const doc = docLedElsewhere(docOf(text), to);
  expect(plainText(doc)).toBe(text.replaceAll('https://', ''));
  expect(JSON.stringify(doc)).toContain('"href":"https://here.example/l/1"');
});

test('what is linked leads elsewhere too, wherever it stands, and keeps how it looks', () => {
  const linked = (href: string): Block => ({
    type: 'paragraph',
    content: [
      { type: 'text', text: 'the map', marks: [{ type: 'bold' }, { type: 'link', attrs: { href } }] },
    ],
  });
  const doc: Doc = {
    type: 'doc',
    content: [
      linked('https://fen.example/a'),
      { type: 'bulletList', content: [{ type: 'listItem', content: [linked('https://fen.example/b')] }] },
      { type: 'blockquote', content: [linked('https://fen.example/c')] },
      {
        type: 'table',
        content: [
          { type: 'tableRow', content: [{ type: 'tableCell', content: [linked('https://fen.example/d')] }] },
        ],
      },
      { type: 'horizontalRule' },
    ],
  };
  const led = docLedElsewhere(doc, to);
  expect(led).toEqual(
    JSON.parse(JSON.stringify(doc).replace(/https:\/\/fen.example\/(.)/gu, 'https://here.example/l/$1')),
  );
  const said = {
    subject: { en: '' },
    preview: { en: '' },
    body: { en: 'See https://fen.example/z', fr: 'Voir https://fen.example/a' },
    formatted: { en: null, fr: doc },
  };
  expect(addressesOf(said)).toEqual(['z', 'a', 'b', 'c', 'd'].map((at) => `https://fen.example/${at}`));
});
