import { rowsOf } from '#core/season/ribbon.ts';
import { minuteOf } from '#core/time/dates.ts';
import { shiftWall } from '#core/time/wallTime.ts';
import type { ShiftTimes } from './shift.ts';

/** A shift as far as the board places it. */
export interface BoardShift extends ShiftTimes {
  id: string;
  role: string;
  place: string;
  least: number;
  wished: number;
  filled: number;
}

/** By what lanes are told apart. */
export type LaneBy = 'role' | 'place';

/** Shifts that stand in one lane, each in its row; those at one time stand under each other. */
export interface Lane<S extends BoardShift> {
  name: string;
  placed: readonly { shift: S; row: number }[];
  rows: number;
  /** Places short of what its shifts take at least, and of what is wished. */
  lacking: number;
  open: number;
}

/** A stretch of wall time that is seen, in minutes since the beginning of 1970 by the clock of the place. */
export interface Span {
  from: number;
  to: number;
}

/** The finest step in which shifts are moved and stretched, and the shortest and longest they are then, in minutes. */
export const snap = 15;
const longest = 24 * 60;

const lacking = (s: Pick<BoardShift, 'least' | 'filled'>): number => Math.max(0, s.least - s.filled);
const open = (s: BoardShift): number => Math.max(0, s.wished - s.filled);

/** How a shift stands: short of what it takes at least, of what is wished, or full. */
export type Fill = 'short' | 'open' | 'full';
export const fillOf = (s: Pick<BoardShift, 'least' | 'wished' | 'filled'>): Fill =>
  s.filled < s.least ? 'short' : s.filled < s.wished ? 'open' : 'full';

/** Shifts in lanes, those that lack most first, then those with most open places; of two alike by their names. */
export function lanesOf<S extends BoardShift>(shifts: readonly S[], by: LaneBy): Lane<S>[] {
  const lanes = new Map<string, S[]>();
  for (const s of shifts) lanes.set(s[by], [...(lanes.get(s[by]) ?? []), s]);
  return [...lanes]
    .map(([name, own]) => {
      const inOrder = [...own].sort(
        (a, b) => minuteOf(a.startsLocal) - minuteOf(b.startsLocal) || (a.id < b.id ? -1 : 1),
      );
      const rows = rowsOf(
        inOrder.map((s) => ({ left: minuteOf(s.startsLocal), right: minuteOf(s.endsLocal) })),
        own.length,
        0,
      );
      return {
        name,
        placed: inOrder.map((shift, n) => ({ shift, row: rows[n] ?? 0 })),
        rows: Math.max(...rows.map((row) => (row ?? 0) + 1)),
        lacking: own.reduce((sum, s) => sum + lacking(s), 0),
        open: own.reduce((sum, s) => sum + open(s), 0),
      };
    })
    .sort(
      (a, b) =>
        b.lacking - a.lacking || b.open - a.open || (a.name.toLowerCase() < b.name.toLowerCase() ? -1 : 1),
    );
}

/** The days shifts begin on, in order. */
export const daysOf = (shifts: readonly ShiftTimes[]): string[] =>
  [...new Set(shifts.map((s) => s.startsLocal.slice(0, 10)))].sort();

/** From the hour in which the first begins to that in which the last has ended. Null without any. */
export function spanOf(shifts: readonly ShiftTimes[]): Span | null {
  if (!shifts.length) return null;
  const from = Math.min(...shifts.map((s) => minuteOf(s.startsLocal)));
  const to = Math.max(...shifts.map((s) => minuteOf(s.endsLocal)));
  return { from: Math.floor(from / 60) * 60, to: Math.ceil(to / 60) * 60 };
}

/** Hours between two lines of the board, so that their times can be read. */
export const ticksEvery = (pixelsAnHour: number): number =>
  [1, 2, 3, 6, 12].find((hours) => hours * pixelsAnHour >= 46) ?? 24;

/** The lines of the board, as minutes: whole multiples of so many hours. */
export function ticksOf({ from, to }: Span, everyHours: number): number[] {
  const step = everyHours * 60;
  const first = Math.ceil(from / step) * step;
  return Array.from({ length: Math.max(0, Math.floor((to - first) / step) + 1) }, (_, n) => first + n * step);
}

/** Some minutes, to the step of the board. */
export const snapped = (minutes: number): number => Math.round(minutes / snap) * snap;

/** A shift at another time, as long as it was. */
export const moved = (s: ShiftTimes, by: number): ShiftTimes => ({
  startsLocal: shiftWall(s.startsLocal, { minutes: by }),
  endsLocal: shiftWall(s.endsLocal, { minutes: by }),
});

/** A shift that begins or ends at another time: no shorter than a step, no longer than a day. */
export function stretched(s: ShiftTimes, edge: 'start' | 'end', by: number): ShiftTimes {
  const lasts = minuteOf(s.endsLocal) - minuteOf(s.startsLocal);
  const wanted = edge === 'end' ? lasts + by : lasts - by;
  const change = Math.min(longest, Math.max(snap, wanted)) - lasts;
  return edge === 'end'
    ? { startsLocal: s.startsLocal, endsLocal: shiftWall(s.endsLocal, { minutes: change }) }
    : { startsLocal: shiftWall(s.startsLocal, { minutes: -change }), endsLocal: s.endsLocal };
}

/** What the board is narrowed to. */
export interface BoardFilter {
  /** Part of a role, a place, the name of a shift or of somebody on it. */
  words: string;
  /** Only shifts that lack somebody. */
  gaps: boolean;
}

/** Whether a shift is shown; `names` are those on it. */
export function isShown(
  s: BoardShift & { name: string },
  names: readonly string[],
  { words, gaps }: BoardFilter,
): boolean {
  if (gaps && fillOf(s) === 'full') return false;
  const wanted = words.trim().toLowerCase();
  return !wanted || [s.role, s.place, s.name, ...names].some((text) => text.toLowerCase().includes(wanted));
}
