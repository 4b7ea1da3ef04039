import { fold } from '#core/contacts/names.ts';
import type { WallTime } from '#core/time/clock.ts';
import type { SheetKind } from './sheetKinds.ts';
import type { AssignmentState } from './states.ts';

/** A shift as far as it stands on a sheet. */
export interface SheetShift {
  name: string;
  role: string;
  place: string;
  startsLocal: WallTime;
  endsLocal: WallTime;
  wished: number;
  lead: string | null;
  assignments: readonly { name: string; state: AssignmentState }[];
}

/** One line: somebody on a shift, or a place that is open. */
export interface SheetLine {
  shift: SheetShift;
  /** Null: nobody yet. */
  who: string | null;
}

/** What stands under one heading. */
export interface SheetGroup {
  heading: string;
  lines: SheetLine[];
}

const inTime = (a: SheetLine, b: SheetLine): number =>
  a.shift.startsLocal < b.shift.startsLocal ? -1 : a.shift.startsLocal > b.shift.startsLocal ? 1 : 0;

/**
 * A sheet of shifts. Whoever only asked is not on it; open places are, as lines without a name, but on that by person. Groups stand in the
 * order of the alphabet, days in theirs; within a group by time, and on the sheet to sign in by name.
 */
export function sheetOf(shifts: readonly SheetShift[], kind: SheetKind): SheetGroup[] {
  const lines = shifts.flatMap((shift): SheetLine[] => {
    const on = shift.assignments.filter((a) => a.state !== 'proposed').map((a) => a.name);
    const open = Array.from({ length: Math.max(0, shift.wished - on.length) }, () => null);
    return [...on, ...(kind === 'person' ? [] : open)].map((who) => ({ shift, who }));
  });
  const headingOf: Record<SheetKind, (line: SheetLine) => string> = {
    day: ({ shift }) => shift.startsLocal.slice(0, 10),
    'sign in': ({ shift }) => shift.startsLocal.slice(0, 10),
    role: ({ shift }) => shift.role,
    place: ({ shift }) => shift.place,
    person: ({ who }) => who ?? '',
  };
  const groups = new Map<string, SheetLine[]>();
  for (const line of lines) {
    const heading = headingOf[kind](line);
    groups.set(heading, [...(groups.get(heading) ?? []), line]);
  }
  // Who is not named yet signs in last.
  const byName = ({ who }: SheetLine) => (who === null ? '\uffff' : fold(who));
  return [...groups]
    .map(([heading, own]) => ({
      heading,
      lines:
        kind === 'sign in'
          ? own.sort((a, b) => (byName(a) < byName(b) ? -1 : byName(a) > byName(b) ? 1 : inTime(a, b)))
          : own.sort(inTime),
    }))
    .sort((a, b) => (fold(a.heading) < fold(b.heading) ? -1 : 1));
}
