import fc from 'fast-check';
import { expect, test } from 'vitest';
import { asTexted, segmentsOf } from './segments.ts';

test.each([
  ['nothing', '', 'gsm', 0, 160],
  ['160 places are one message', 'a'.repeat(160), 'gsm', 1, 0],
  ['161 are two, of 153 each', 'a'.repeat(161), 'gsm', 2, 145],
  ['306 are two', 'a'.repeat(306), 'gsm', 2, 0],
  ['307 are three', 'a'.repeat(307), 'gsm', 3, 152],
  ['French is in the common alphabet, as far as it goes', 'é'.repeat(160), 'gsm', 1, 0],
  ['the euro takes two places', '€'.repeat(80), 'gsm', 1, 0],
  ['and is not cut in two', `${'a'.repeat(152)}€${'a'.repeat(10)}`, 'gsm', 2, 141],
  ['ê is not in it', 'ê'.repeat(70), 'unicode', 1, 0],
  ['one such character makes all of it Unicode', `${'a'.repeat(70)}ê`, 'unicode', 2, 63],
  ['a picture takes two places', '😀'.repeat(35), 'unicode', 1, 0],
  ['and is not cut in two', `${'a'.repeat(66)}😀aaaa`, 'unicode', 2, 61],
] as const)('%s', (_, text, alphabet, count, left) => {
  expect(segmentsOf(text)).toMatchObject({ alphabet, count, left });
});

test('what is not in the common alphabet is named once; what typography does is undone', () => {
  expect(segmentsOf('Fête à l’étang, fête').others).toEqual(['ê']);
  expect(asTexted('“L’étang”\u00a0: 9–12…')).toBe('"L\'étang" : 9-12...');
  expect(segmentsOf('À 9\u202fh\u00a0: l’étang').others).toEqual(['À']);
});

test('never more places than there are, and one more character never takes fewer messages', () => {
  fc.assert(
    fc.property(
      fc.string({ unit: fc.constantFrom('a', '€', 'ê', '😀', ' '), maxLength: 500 }),
      fc.constantFrom('a', '€', 'ê'),
      (text, more) => {
        const { alphabet, count, left } = segmentsOf(text);
        expect(left).toBeGreaterThanOrEqual(0);
        expect(left).toBeLessThanOrEqual(alphabet === 'gsm' ? 160 : 70);
        expect(segmentsOf(text + more).count).toBeGreaterThanOrEqual(count);
      },
    ),
  );
});
