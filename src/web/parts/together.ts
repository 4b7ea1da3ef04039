/** Rows of which the same is said, as one line with their number, where the first of them stands; null keeps a row by itself. */
export function together<Row>(
  rows: readonly Row[],
  lineOf: (row: Row) => string | null,
): { row: Row; count: number }[] {
  const lines = new Map<string | Row, { row: Row; count: number }>();
  for (const row of rows) {
    const line = lineOf(row) ?? row;
    const known = lines.get(line);
    if (known) known.count += 1;
    else lines.set(line, { row, count: 1 });
  }
  return [...lines.values()];
}
