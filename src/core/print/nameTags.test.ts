import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { fitted, mm, nameTagFormats, tagSheets } from './nameTags.ts';

/** Every letter as wide as half the size. */
const half = (text: string, size: number) => [...text].length * size * 0.5;

describe('sheets of name tags', () => {
  test('are of the sizes of ISO 216, and every tag lies on its page, beside the others', () => {
    expect(tagSheets.one.page).toEqual({ width: mm(148), height: mm(105) });
    expect(mm(25.4)).toBe(72);
    expect(nameTagFormats.map((f) => tagSheets[f].tags.length)).toEqual([4, 1, 1, 10, 1]);
    for (const format of nameTagFormats) {
      const { page, tags } = tagSheets[format];
      const places = tags.flat();
      for (const [at, p] of places.entries()) {
        expect(p.x).toBeGreaterThanOrEqual(0);
        expect(p.x + p.width).toBeLessThanOrEqual(page.width + 0.001);
        expect(p.y + p.height).toBeLessThanOrEqual(page.height + 0.001);
        for (const q of places.slice(at + 1))
          expect(
            p.x + p.width <= q.x + 0.001 ||
              q.x + q.width <= p.x + 0.001 ||
              p.y + p.height <= q.y + 0.001 ||
              q.y + q.height <= p.y + 0.001,
          ).toBe(true);
      }
    }
    expect(tagSheets.folded.tags[0]!.map((p) => p.turned)).toEqual([false, true]);
  });
});

describe('a name on a tag', () => {
  const room = { width: 200, lines: 2, largest: 40, smallest: 10 };
  test('is as large as it fits', () => {
    expect(fitted('Jun', room, half)).toEqual({ size: 40, lines: ['Jun'] });
    // Ten letters at 40 are 200 wide.
    expect(fitted('Bartholome', room, half)).toEqual({ size: 40, lines: ['Bartholome'] });
    expect(fitted('Bartholomew', room, half)).toEqual({ size: 36, lines: ['Bartholomew'] });
    expect(fitted('Delacroix Nguyen', room, half)).toEqual({ size: 40, lines: ['Delacroix', 'Nguyen'] });
  });
  test('that fits nowhere is cut at the smallest, and says so', () => {
    const long = 'Wolfeschlegelsteinhausenbergerdorff Featherstonehaugh Cholmondeley-Marjoribanks';
    const { size, lines } = fitted(long, { ...room, width: 100 }, half);
    expect(size).toBe(10);
    expect(lines).toHaveLength(2);
    expect(lines[1]!.endsWith('…')).toBe(true);
  });
  test('never runs beyond its place', () => {
    fc.assert(
      fc.property(
        fc.array(fc.string({ minLength: 1, maxLength: 40 }), { minLength: 1, maxLength: 6 }),
        fc.integer({ min: 30, max: 400 }),
        fc.integer({ min: 1, max: 3 }),
        (words, width, lines) => {
          const text = words.join(' ');
          const is = fitted(text, { width, lines, largest: 40, smallest: 6 }, half);
          expect(is.lines.length).toBeLessThanOrEqual(lines);
          for (const l of is.lines) expect(half(l, is.size)).toBeLessThanOrEqual(width);
          // Nothing is lost unless it says so.
          if (!is.lines.at(-1)?.endsWith('…'))
            expect(is.lines.join('').replaceAll(/\s/gu, '')).toBe(text.replaceAll(/\s/gu, ''));
        },
      ),
    );
  });
});
