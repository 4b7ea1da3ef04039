/** How near an event is to the number of people it hopes for. */
export interface GoalStanding {
  reached: number;
  /** The number it goes for now; the last one once all are reached. */
  next: number;
  /** The number after that; null where there is none. */
  after: number | null;
}

/** A goal that moves on: once a number is reached, the next one counts. Null without any. */
export function goalAt(steps: readonly number[], reached: number): GoalStanding | null {
  const sorted = [...new Set(steps)].sort((a, b) => a - b);
  if (!sorted.length) return null;
  const at = sorted.findIndex((step) => step > reached);
  if (at < 0) return { reached, next: sorted.at(-1)!, after: null };
  return { reached, next: sorted[at]!, after: sorted[at + 1] ?? null };
}
