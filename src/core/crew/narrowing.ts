import { type Condition, holds } from '#core/seats/narrowing.ts';

/** A shift as far as those on it can be chosen by it. */
export interface NarrowedShift {
  role: string;
  place: string;
}

/** By what: each is compared as one of some choices. */
export const shiftColumns = ['role', 'place'] as const;

export const isShiftColumn = (column: string): column is (typeof shiftColumns)[number] =>
  shiftColumns.some((c) => c === column);

/** Whether all of some conditions hold of a shift; one that asks for what a shift does not have never does. */
export const shiftMeets = (shift: NarrowedShift, conditions: readonly Condition[]): boolean =>
  conditions.every(
    (condition) =>
      isShiftColumn(condition.column) && holds(condition, [shift[condition.column]].filter(Boolean)),
  );
