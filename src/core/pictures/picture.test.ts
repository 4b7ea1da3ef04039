import fc from 'fast-check';
import { expect, test } from 'vitest';
import { cutAround, focusIn, shapes, widthsOf } from './picture.ts';

test('a picture is kept in the widths below its own, and its own where that is small', () => {
  expect(widthsOf(4000)).toEqual([400, 800, 1600]);
  expect(widthsOf(1600)).toEqual([400, 800, 1600]);
  expect(widthsOf(1000)).toEqual([400, 800, 1000]);
  expect(widthsOf(120)).toEqual([120]);
});

test('a cut has the focus in its middle, or as near as the edges allow', () => {
  const picture = { width: 1000, height: 1000 };
  expect(cutAround(picture, 'whole', { x: 0, y: 0 })).toEqual({ left: 0, top: 0, width: 1000, height: 1000 });
  expect(cutAround(picture, 'wide', { x: 0.5, y: 0.5 })).toEqual({
    left: 0,
    top: 250,
    width: 1000,
    height: 500,
  });
  expect(cutAround(picture, 'wide', { x: 0.5, y: 0.1 })).toEqual({
    left: 0,
    top: 0,
    width: 1000,
    height: 500,
  });
  expect(cutAround({ width: 300, height: 200 }, 'square', { x: 1, y: 0.5 })).toEqual({
    left: 100,
    top: 0,
    width: 200,
    height: 200,
  });
});

test('whatever the picture and the focus, a cut is within it, of its shape, and holds the focus', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 9000 }),
      fc.integer({ min: 1, max: 9000 }),
      fc.constantFrom(...shapes),
      fc.double({ min: 0, max: 1, noNaN: true }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (width, height, shape, x, y) => {
        const cut = cutAround({ width, height }, shape, { x, y });
        expect(cut.width).toBeGreaterThan(0);
        expect(cut.height).toBeGreaterThan(0);
        expect(cut.left).toBeGreaterThanOrEqual(0);
        expect(cut.top).toBeGreaterThanOrEqual(0);
        expect(cut.left + cut.width).toBeLessThanOrEqual(width);
        expect(cut.top + cut.height).toBeLessThanOrEqual(height);
        if (shape === 'square') expect(Math.abs(cut.width - cut.height)).toBeLessThanOrEqual(1);
        if (shape === 'wide' && height > 1)
          expect(Math.abs(cut.width - 2 * cut.height)).toBeLessThanOrEqual(2);
        const focus = focusIn(cut, { width, height }, { x, y });
        // Rounding to whole pixels may put it half a pixel off.
        expect(Math.abs(cut.left + focus.x * cut.width - x * width)).toBeLessThanOrEqual(1);
        expect(Math.abs(cut.top + focus.y * cut.height - y * height)).toBeLessThanOrEqual(1);
      },
    ),
  );
});
