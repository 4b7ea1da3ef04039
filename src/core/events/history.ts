import type { Instant } from '#core/time/clock.ts';
import { sameValue } from '#core/words/canonical.ts';

/** Minutes within which what one person types on in one field is one change. */
const togetherMinutes = 10;

/** A change of one field of a plan, as it is kept. */
export interface FieldChange {
  field: string;
  at: Instant;
  staffId: string | null;
  undoes: string | null;
}

/** True when a change goes on with the one before it: the same field, the same person, a moment ago. */
export const goesOn = (last: FieldChange | null, now: FieldChange): boolean =>
  last !== null &&
  last.field === now.field &&
  last.staffId !== null &&
  last.staffId === now.staffId &&
  last.undoes === null &&
  now.undoes === null &&
  Date.parse(now.at) - Date.parse(last.at) < togetherMinutes * 60_000;

/** What became of the rows of a list, by their ids. */
export interface ListChange<Row> {
  added: Row[];
  removed: Row[];
  changed: Row[];
  moved: boolean;
}

export function listChange<Row extends { id: string }>(
  before: readonly Row[],
  after: readonly Row[],
): ListChange<Row> {
  const was = new Map(before.map((row) => [row.id, row]));
  const is = new Set(after.map((row) => row.id));
  const stays = after.filter((row) => was.has(row.id));
  return {
    added: after.filter((row) => !was.has(row.id)),
    removed: before.filter((row) => !is.has(row.id)),
    changed: stays.filter((row) => !sameValue(row, was.get(row.id))),
    moved: before.filter((row) => is.has(row.id)).some((row, at) => row.id !== stays[at]!.id),
  };
}
