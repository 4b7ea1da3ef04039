import type { FileRow } from './checking.ts';
import type { Mapping } from './mapping.ts';
import { partsOf } from './reading.ts';
import type { RowPart } from './rows.ts';

/** How far beyond the lines of a file the further people of its rows are counted: line 5 of 383 has 1005, 2005 and 3005. */
const beyond = (lastLine: number): number => 10 ** Math.max(3, String(lastLine).length);
const places: Record<RowPart, number> = {
  own: 0,
  partner: 1,
  guardian: 2,
  'other guardian': 3,
};

/**
 * One row for every person that a row of a file names: itself, the second of two in one cell, the guardians of a child.
 * The further ones come right after, under lines that no row of the file has and that stay the same whenever the file is
 * read again. `lastLine` is that of the whole file, where only some of its rows are given.
 */
export function everyPerson(
  rows: readonly FileRow[],
  mapping: Mapping,
  lastLine = rows.at(-1)?.line ?? 0,
): FileRow[] {
  const step = beyond(lastLine);
  return rows.flatMap((row) =>
    partsOf(row.cells, mapping).map((part) =>
      part === 'own' ? row : { ...row, line: row.line + places[part] * step, ofLine: row.line, part },
    ),
  );
}
