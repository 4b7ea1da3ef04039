import { expect, test } from 'vitest';
import { foundOf, type SaidText } from './finding.ts';

const texts: SaidText[] = [
  { in: 'experience', label: '', text: 'Three seasons in the kitchen of the Café Héron' },
  { in: 'registration', label: 'Do you own a canoe?', text: 'yes, a red one' },
  { in: 'tag', label: '', text: 'early riser' },
];

test('each word has to stand somewhere: in the name, or in what was said, however it is written', () => {
  expect(foundOf('', 'Imke Ruut', texts)).toEqual([]);
  expect(foundOf('imke', 'Imke Ruut', texts)).toEqual([]);
  expect(foundOf('HERON kitchen', 'Imke Ruut', texts)).toEqual([texts[0]]);
  expect(foundOf('imke cafe red', 'Imke Ruut', texts)).toEqual([texts[0], texts[1]]);
  // What was asked counts as what was said.
  expect(foundOf('canoe', 'Imke Ruut', texts)).toEqual([texts[1]]);
  expect(foundOf('kitchen barn', 'Imke Ruut', texts)).toBeNull();
});

test('of a long text the part is shown in which it was found', () => {
  const filler = 'I would rather not say too much about it, but ';
  const long = `${filler.repeat(6)}I can drive a tractor and a trailer. ${filler.repeat(4)}`;
  const [found] = foundOf('trailer', 'Imke Ruut', [{ in: 'experience', label: '', text: long }])!;
  expect(found!.text).toContain('drive a tractor and a trailer.');
  expect(found!.text).toMatch(/^… .* …$/u);
  expect(found!.text.length).toBeLessThan(110);
});
