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
  assignments: readonly { contactId: string; name: string; state: AssignmentState }[];
}

/** One line: somebody on a shift, or a place that is open. */
export interface SheetLine<S extends SheetShift = SheetShift> {
  shift: S;
  /** Null: nobody yet. */
  on: S['assignments'][number] | null;
}

/** What stands under one heading. */
export interface SheetGroup<S extends SheetShift = SheetShift> {
  heading: string;
  lines: SheetLine<S>[];
}

const inTime = (a: SheetLine, b: SheetLine): number =>
  a.shift.startsLocal < b.shift.startsLocal ? -1 : a.shift.startsLocal > b.shift.startsLocal ? 1 : 0;

/**
 * A sheet of shifts. Whoever only asked is not on it; open places are, as lines without a name, but on that by person: two of one name
 * are two there. Groups stand in the order of the alphabet, days in theirs; within a group by time, and on the sheet to sign in by name.
 */
export function sheetOf<S extends SheetShift>(shifts: readonly S[], kind: SheetKind): SheetGroup<S>[] {
  const lines = shifts.flatMap((shift): SheetLine<S>[] => {
    const on: S['assignments'][number][] = shift.assignments.filter((a) => a.state !== 'proposed');
    const open = Array.from({ length: Math.max(0, shift.wished - on.length) }, () => null);
    return [...on, ...(kind === 'person' ? [] : open)].map((one) => ({ shift, on: one }));
  });
  const headingOf: Record<SheetKind, (line: SheetLine<S>) => string> = {
    day: ({ shift }) => shift.startsLocal.slice(0, 10),
    'sign in': ({ shift }) => shift.startsLocal.slice(0, 10),
    role: ({ shift }) => shift.role,
    place: ({ shift }) => shift.place,
    person: ({ on }) => on?.name ?? '',
  };
  const groups = new Map<string, SheetLine<S>[]>();
  for (const line of lines) {
    const key = kind === 'person' ? (line.on?.contactId ?? '') : headingOf[kind](line);
    groups.set(key, [...(groups.get(key) ?? []), line]);
  }
  // Who is not named yet signs in last.
  const byName = ({ on }: SheetLine) => (on === null ? '\uffff' : fold(on.name));
  return [...groups.values()]
    .map((own) => ({
      heading: headingOf[kind](own[0]!),
      lines:
        kind === 'sign in'
          ? own.sort((a, b) => (byName(a) < byName(b) ? -1 : byName(a) > byName(b) ? 1 : inTime(a, b)))
          : own.sort(inTime),
    }))
    .sort((a, b) => (fold(a.heading) < fold(b.heading) ? -1 : fold(a.heading) > fold(b.heading) ? 1 : 0));
}
