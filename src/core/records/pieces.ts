import { isQuestion, type Segment } from './segment.ts';

/** Segments, by identity, whose contacts are found already. */
export type Known = ReadonlyMap<Segment, readonly string[]>;

/** How many questions a segment asks, where one found already counts as one. */
export function weightOf(s: Segment, known: Known = new Map()): number {
  if (known.has(s)) return 1;
  if (isQuestion(s)) return 1 + (s.ask === 'in the household of' ? weightOf(s.who, known) : 0);
  if ('not' in s) return weightOf(s.not, known);
  return ('all' in s ? s.all : s.any).reduce((sum, x) => sum + weightOf(x, known), 0);
}

/**
 * Takes a segment apart so that no piece asks more than `most` questions (at least 2): `find` answers the contacts of
 * each piece, and what is left asks at most as many itself. Between the pieces others have their turn, and `find` may
 * give up. Contacts are the same as of the segment asked at once.
 */
export async function inPieces(
  segment: Segment,
  most: number,
  find: (piece: Segment, known: Known) => Promise<readonly string[]>,
): Promise<{ segment: Segment; known: Known }> {
  const known = new Map<Segment, readonly string[]>();
  const settle = async (piece: Segment): Promise<Segment> => {
    if (!known.has(piece)) known.set(piece, await find(piece, known));
    return piece;
  };
  const lighten = async (s: Segment): Promise<Segment> => {
    if (weightOf(s, known) <= most) return s;
    if (isQuestion(s))
      return s.ask === 'in the household of' ? { ...s, who: await settle(await lighten(s.who)) } : s;
    if ('not' in s) return { not: await lighten(s.not) };
    const join = 'all' in s ? 'all' : 'any';
    const group = (of: readonly Segment[]): Segment => (join === 'all' ? { all: of } : { any: of });
    let parts: Segment[] = [];
    for (const x of 'all' in s ? s.all : s.any) parts.push(await lighten(x));
    while (weightOf(group(parts), known) > most) {
      const packed: Segment[] = [];
      let piece: Segment[] = [];
      const close = async () => {
        if (piece.length) packed.push(await settle(piece.length === 1 ? piece[0]! : group(piece)));
        piece = [];
      };
      for (const x of parts) {
        if (piece.length && weightOf(group([...piece, x]), known) > most) await close();
        piece.push(x);
      }
      await close();
      parts = packed;
    }
    return group(parts);
  };
  return { segment: await lighten(segment), known };
}
