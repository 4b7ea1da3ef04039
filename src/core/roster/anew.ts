import { allColumns, type Column, columnOf } from './columns.ts';
import type { NewLinearModel } from './linear.ts';
import type { Standing } from './standing.ts';

/** What one thing counts against another: places by their importance, wishes, and squares of hours against it. */
export interface Aim {
  least: number;
  wished: number;
  wishes: number;
  squares: number;
}

/**
 * Puts some units anew, as well as they can be put with everybody else as they are: everything each of them could do is
 * written down, and a model of whole numbers chooses. Says whether it was solved; where it is too much, or time runs out
 * with nothing found, all is as it was.
 */
export function putAnew(
  standing: Standing,
  freed: readonly number[],
  newLinear: NewLinearModel,
  of: { aim: Aim; mostMinutes: number; seconds: number; mostColumns: number },
): boolean {
  const { ground } = standing;
  const { units, shifts } = ground;
  const before = freed.map((unit) => [...standing.shiftsOf[unit]!].sort((a, b) => a - b));
  for (const [n, unit] of freed.entries()) for (const s of before[n]!) standing.take(unit, s);
  const restore = () => {
    for (const [n, unit] of freed.entries()) for (const s of before[n]!) standing.put(unit, s);
    return false;
  };
  let room = of.mostColumns;
  const all: Column[][] = [];
  for (const unit of freed) {
    const own = units[unit]!;
    const open = own.shifts.filter(
      (s, at) =>
        standing.filled[s]! + own.sizes[at]! <= shifts[s]!.wished &&
        own.apart.every((other) => !standing.has(other, s)),
    );
    const found = allColumns(ground, unit, room, open, of.mostMinutes);
    if (!found) return restore();
    room -= found.length;
    all.push(found.map((own) => columnOf(ground, unit, own)));
  }
  // Nobody of them can do anything as things stand, so nothing can be put otherwise.
  if (all.every((own) => own.length === 0)) return restore();
  const { aim } = of;
  const linear = newLinear();
  const start: number[] = [];
  const rowOf = new Map<number, number>();
  const shiftRow = (s: number): number => {
    const row = rowOf.get(s) ?? linear.addRow(0, 0);
    rowOf.set(s, row);
    return row;
  };
  const columns: { at: number; column: Column }[] = [];
  const came = new Map<number, number>();
  for (const [n, unit] of freed.entries()) {
    const own = units[unit]!;
    const once = linear.addRow(-Infinity, 1);
    const was = before[n]!.join(',');
    for (const column of all[n]!) {
      const at = linear.addColumn(
        aim.squares * column.squares - aim.wishes * column.wishes,
        0,
        1,
        [once, ...column.shifts.map(shiftRow)],
        [1, ...column.shifts.map((s) => own.sizes[own.at.get(s)!]!)],
      );
      columns.push({ at, column });
      start[at] = [...column.shifts].sort((a, b) => a - b).join(',') === was ? 1 : 0;
    }
    for (const s of before[n]!) came.set(s, (came.get(s) ?? 0) + own.sizes[own.at.get(s)!]!);
  }
  const ofUnit = new Map<number, typeof columns>();
  for (const one of columns) {
    const own = ofUnit.get(one.column.unit);
    if (own) own.push(one);
    else ofUnit.set(one.column.unit, [one]);
  }
  const where = (unit: number, shift: number) =>
    (ofUnit.get(unit) ?? []).filter(({ column }) => column.shifts.includes(shift));
  for (const [s, row] of rowOf) {
    const { importance, least, wished } = shifts[s]!;
    const filled = standing.filled[s]!;
    const missing = Math.max(0, least - filled);
    const now = came.get(s) ?? 0;
    if (missing)
      start[linear.addColumn(-aim.least * importance, 0, missing, [row], [-1])] = Math.min(now, missing);
    const more = wished - Math.max(least, filled);
    if (more)
      start[linear.addColumn(-aim.wished * importance, 0, more, [row], [-1])] = Math.max(0, now - missing);
    // Somebody under age only beside somebody of age.
    const there = freed.filter((unit) => units[unit]!.at.has(s));
    const young = there.filter((unit) => !units[unit]!.adults[units[unit]!.at.get(s)!]);
    if (!young.length || standing.hasAdult(s)) continue;
    const adults = there.filter((unit) => !young.includes(unit)).flatMap((unit) => where(unit, s));
    for (const unit of young) {
      const beside = linear.addRow(0, Infinity);
      for (const { at } of adults) linear.setFactor(beside, at, 1);
      for (const { at } of where(unit, s)) linear.setFactor(beside, at, -1);
    }
  }
  for (const unit of freed)
    for (const other of units[unit]!.apart)
      if (other > unit && freed.includes(other))
        for (const s of rowOf.keys()) {
          const both = [...where(unit, s), ...where(other, s)];
          if (!both.length) continue;
          const row = linear.addRow(-Infinity, 1);
          for (const { at } of both) linear.setFactor(row, at, 1);
        }
  const answer = linear.solve({ seconds: of.seconds, whole: columns.map(({ at }) => at), start });
  linear.close();
  if (!answer.values) return restore();
  const pairs = columns.flatMap(({ at, column }) =>
    answer.values![at]! > 0.5 ? column.shifts.map((s): [number, number] => [column.unit, s]) : [],
  );
  for (const [unit, s] of pairs) standing.put(unit, s);
  return true;
}
