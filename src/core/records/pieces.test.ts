import fc from 'fast-check';
import { expect, test } from 'vitest';
import { inPieces, type Known, weightOf } from './pieces.ts';
import type { Segment } from './segment.ts';

const everybody = Array.from({ length: 12 }, (_, n) => String(n));
/** Households of three. */
const home = (id: string): number => Math.floor(Number(id) / 3);

/** Who a segment finds among twelve people, where tag `n` is had by those whose number shares a bit with n. */
function found(s: Segment, known: Known = new Map()): string[] {
  const answer = known.get(s);
  if (answer) return [...answer];
  if ('all' in s) return everybody.filter((p) => s.all.every((x) => found(x, known).includes(p)));
  if ('any' in s) return everybody.filter((p) => s.any.some((x) => found(x, known).includes(p)));
  if ('not' in s) return everybody.filter((p) => !found(s.not, known).includes(p));
  if (s.ask === 'in the household of') {
    const homes = new Set(found(s.who, known).map(home));
    return everybody.filter((p) => homes.has(home(p)));
  }
  if (s.ask === 'tag') return everybody.filter((p) => (Number(p) & Number(s.tag)) !== 0);
  throw new Error('not asked here');
}

const { segment } = fc.letrec<{ segment: Segment }>((tie) => ({
  segment: fc.oneof(
    { maxDepth: 5, withCrossShrink: true },
    fc.integer({ min: 0, max: 15 }).map((n): Segment => ({ ask: 'tag', tag: String(n) })),
    fc.array(tie('segment'), { maxLength: 12 }).map((all): Segment => ({ all })),
    fc.array(tie('segment'), { maxLength: 12 }).map((any): Segment => ({ any })),
    tie('segment').map((not): Segment => ({ not })),
    tie('segment').map((who): Segment => ({ ask: 'in the household of', who })),
  ),
}));

test('taken apart, a segment finds the same people, and no piece asks more than it may', async () => {
  await fc.assert(
    fc.asyncProperty(segment, fc.integer({ min: 2, max: 9 }), async (whole, most) => {
      const light = await inPieces(whole, most, async (piece, known) => {
        expect(weightOf(piece, known)).toBeLessThanOrEqual(most);
        return found(piece, known);
      });
      expect(weightOf(light.segment, light.known)).toBeLessThanOrEqual(most);
      expect(found(light.segment, light.known)).toEqual(found(whole));
    }),
    { numRuns: 400 },
  );
});

test('a light segment is asked at once', async () => {
  const light: Segment = { all: [{ ask: 'tag', tag: '1' }, { not: { ask: 'tag', tag: '2' } }] };
  const asked: Segment[] = [];
  const { segment: same } = await inPieces(light, 8, async (piece) => {
    asked.push(piece);
    return [];
  });
  expect(asked).toEqual([]);
  expect(same).toBe(light);
});

test('giving up between two pieces ends it', async () => {
  const heavy: Segment = {
    all: Array.from({ length: 40 }, (_, n): Segment => ({ ask: 'tag', tag: String(n) })),
  };
  let pieces = 0;
  await expect(
    inPieces(heavy, 8, async () => {
      pieces += 1;
      if (pieces === 3) throw new Error('too long');
      return [];
    }),
  ).rejects.toThrow('too long');
  expect(pieces).toBe(3);
});
