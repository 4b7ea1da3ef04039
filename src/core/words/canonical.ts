/** A value as JSON, always the same for the same: whatever order its keys are in. What is hashed and compared. */
export const canonical = (value: unknown): string =>
  JSON.stringify(value ?? null, (_, v: unknown) =>
    typeof v === 'object' && v !== null && !Array.isArray(v)
      ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)))
      : v,
  );

/** True when two values say the same. */
export const sameValue = (a: unknown, b: unknown): boolean => canonical(a) === canonical(b);
