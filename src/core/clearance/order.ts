/** Something that comes after others, by their ids. */
export interface Ordered {
  id: string;
  after: readonly string[];
}

/** A circle in which everybody waits for the next and the last for the first, by their ids; null where there is none. */
export function circleIn(all: readonly Ordered[]): string[] | null {
  // Two under one id are one in this: whatever either waits for, is waited for.
  const after = new Map<string, string[]>();
  for (const one of all) after.set(one.id, [...(after.get(one.id) ?? []), ...one.after]);
  const done = new Set<string>();
  const walk = (id: string, path: readonly string[]): string[] | null => {
    const at = path.indexOf(id);
    if (at >= 0) return path.slice(at);
    if (done.has(id)) return null;
    for (const before of after.get(id) ?? []) {
      const circle = walk(before, [...path, id]);
      if (circle) return circle;
    }
    done.add(id);
    return null;
  };
  for (const { id } of all) {
    const circle = walk(id, []);
    if (circle) return circle;
  }
  return null;
}

/** How many come before each, one after another, at least: none before those that wait for nobody. */
export function depthsOf(waits: ReadonlyMap<string, readonly string[]>): ReadonlyMap<string, number> {
  const depths = new Map<string, number>();
  const depthOf = (id: string): number => {
    const known = depths.get(id);
    if (known !== undefined) return known;
    const depth = Math.max(0, ...waits.get(id)!.map((before) => 1 + depthOf(before)));
    depths.set(id, depth);
    return depth;
  };
  for (const id of waits.keys()) depthOf(id);
  return depths;
}

/**
 * What each of some waits for among themselves. What waits for one that is not needed waits for whatever that one would have
 * waited for: a step does not come sooner because one between is left out.
 */
export function waitsFor(needed: readonly string[], all: readonly Ordered[]): ReadonlyMap<string, string[]> {
  const byId = new Map(all.map((one) => [one.id, one]));
  const here = new Set(needed);
  const known = new Map<string, string[]>();
  const before = (id: string): string[] => {
    const found = known.get(id);
    if (found) return found;
    known.set(id, []);
    const those = [
      ...new Set((byId.get(id)?.after ?? []).flatMap((one) => (here.has(one) ? [one] : before(one)))),
    ];
    known.set(id, those);
    return those;
  };
  return new Map(needed.map((id) => [id, before(id)]));
}
