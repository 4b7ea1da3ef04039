/** Stretches of time in order, those that overlap or touch as one. */
export function merged(stretches: readonly (readonly [from: number, to: number])[]): [number, number][] {
  const out: [number, number][] = [];
  for (const [from, to] of [...stretches].sort((a, b) => a[0] - b[0])) {
    const last = out.at(-1);
    if (last && from <= last[1]) last[1] = Math.max(last[1], to);
    else out.push([from, to]);
  }
  return out;
}
