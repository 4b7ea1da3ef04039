import type { Concerned } from './letters.ts';

/** As much of a letter as is the same, or is counted, where several events are changed as one. */
interface Letter {
  to: Concerned;
  bySelf: boolean;
  told: boolean;
  count: number;
  leftOut: { name: string; why: string }[];
  sample: object | null;
  calendar: unknown;
}

/**
 * The letters of several events as one list: of each sort one, with everybody who gets it. Whoever is told by one event is told;
 * the one that is shown is that of the first event that has somebody to tell.
 */
export function lettersTogether<L extends Letter>(of: readonly (readonly L[])[]): L[] {
  const together = new Map<Concerned, L>();
  for (const letter of of.flat()) {
    const known = together.get(letter.to);
    together.set(
      letter.to,
      known
        ? {
            ...known,
            bySelf: known.bySelf || letter.bySelf,
            told: known.told || letter.told,
            count: known.count + letter.count,
            leftOut: [...known.leftOut, ...letter.leftOut],
            sample: known.sample ?? letter.sample,
            calendar: known.calendar ?? letter.calendar,
          }
        : letter,
    );
  }
  return [...together.values()];
}
