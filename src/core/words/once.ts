/**
 * Makes something the first time it is asked for and keeps it, by what it was asked with. For formats of the runtime: making one
 * takes a hundred times as long as using it. What it is asked with has to come from code, else it keeps growing.
 */
export function once<A extends readonly (string | number | object | undefined)[], T>(
  make: (...asked: A) => T,
): (...asked: A) => T {
  const made = new Map<string, T>();
  return (...asked) => {
    const key = JSON.stringify(asked);
    const known = made.get(key);
    if (known !== undefined) return known;
    const fresh = make(...asked);
    made.set(key, fresh);
    return fresh;
  };
}
