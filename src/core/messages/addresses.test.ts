import { expect, test } from 'vitest';
import { plainText } from '#core/text/doc.ts';
import { addressesIn, docLedElsewhere, ledElsewhere } from './addresses.ts';

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
  const doc = docLedElsewhere(text, to);
  expect(plainText(doc)).toBe(text.replaceAll('https://', ''));
  expect(JSON.stringify(doc)).toContain('"href":"https://here.example/l/1"');
});
