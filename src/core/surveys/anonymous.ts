/**
 * An anonymous answer is torn into slips, one a question, that are kept apart from each other and from whoever gave them. What they
 * add up to is shown so that no two looks at it, at whatever time or narrowed to whatever group, differ by fewer than this many
 * answers: a single one could be somebody known to have answered in between, or to be alone in a group.
 */
export const fewest = 5;

/** Answers of a group. */
export interface Cell<T> {
  name: string;
  of: readonly T[];
}

/** Groups as they may be shown: none smaller than `fewest`. */
export interface Merged<T> {
  /** Which groups it was put together from. */
  names: string[];
  of: T[];
}

/**
 * Puts groups that are too small together, and with the smallest of the others where that is not enough, so that what is left over of
 * the whole is never a small group either. Null where nothing is left to tell apart.
 */
export function merged<T>(cells: readonly Cell<T>[]): Merged<T>[] | null {
  const groups: Merged<T>[] = cells
    .filter((c) => c.of.length >= fewest)
    .map((c) => ({ names: [c.name], of: [...c.of] }));
  const small = cells.filter((c) => c.of.length > 0 && c.of.length < fewest);
  const rest: Merged<T> = { names: small.map((c) => c.name), of: small.flatMap((c) => c.of) };
  if (rest.of.length >= fewest) groups.push(rest);
  else if (rest.of.length) {
    const smallest = [...groups].sort((a, b) => a.of.length - b.of.length)[0];
    smallest?.names.push(...rest.names);
    smallest?.of.push(...rest.of);
  }
  return groups.length > 1 ? groups : null;
}
