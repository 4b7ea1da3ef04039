import Papa from 'papaparse';
import { readDate } from '#core/imports/cells.ts';
import type { CalendarDate, WallTime } from '#core/time/clock.ts';
import { shiftDate, weekdayNumber } from '#core/time/dates.ts';
import { type Importance, importances } from './importance.ts';

/** A shift as it is written in a line of a list. */
export interface ListedShift {
  name: string;
  role: string;
  place: string;
  startsLocal: WallTime;
  endsLocal: WallTime;
  least: number;
  wished: number;
  importance: Importance;
  briefing: string;
}

/** Why a line is no shift. */
export type LineProblem = 'no-role' | 'no-day' | 'no-start' | 'no-end' | 'no-number' | 'least-above';

export interface ListedLine {
  /** Which line of the list, from 1. */
  line: number;
  shift: ListedShift | null;
  problem: LineProblem | null;
}

const columns = [
  'role',
  'place',
  'day',
  'from',
  'to',
  'wished',
  'least',
  'name',
  'importance',
  'briefing',
] as const;
type Column = (typeof columns)[number];

const headings: readonly [Column, RegExp][] = [
  ['role', /^(role|job|task|position)s?$/iu],
  ['place', /^(place|where|location|station)$/iu],
  ['day', /^(day|date|on)$/iu],
  ['from', /^(from|starts?|begins?|start time|time|when)$/iu],
  ['to', /^(to|until|till|ends?|end time)$/iu],
  ['least', /^(least|at least|min(imum)?)$/iu],
  ['wished', /^(wished|how many|people|needed|number|places|max(imum)?)$/iu],
  ['name', /^(name|shift|title)$/iu],
  ['importance', /^(importance|priority)$/iu],
  ['briefing', /^(briefing|notes?|comments?)$/iu],
];

/** How many lines are read at most. */
const mostLines = 400;

/** A time of day as people write it: 9, 9:30, 9.30, 9h30, 0930, 9 am, 5:15pm, noon, midnight. Null where it is none. */
export function readTimeOfDay(text: string): string | null {
  const said = text.trim().toLowerCase();
  if (said === 'noon') return '12:00';
  if (said === 'midnight') return '00:00';
  const parts = /^(\d{1,2})(?:[:.h](\d{2})?|(?<=\d{2})(\d{2}))?\s*([ap])?\.?(?:m\.?)?$/u.exec(said);
  if (!parts) return null;
  const [, h, afterSign, joined, half] = parts;
  let hour = Number(h);
  const minute = Number(afterSign ?? joined ?? 0);
  if (half) {
    if (hour < 1 || hour > 12) return null;
    hour = (hour % 12) + (half === 'p' ? 12 : 0);
  }
  if (hour === 24 && minute === 0) hour = 0;
  if (hour > 23 || minute > 59) return null;
  return `${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}`;
}

/** The days a shift can be meant by its weekday: those of the event, and the one before and after. */
function dayOf(cell: string, first: CalendarDate): CalendarDate | null {
  if (!cell) return first;
  const weekday = /^(sun|mon|tue|wed|thu|fri|sat)\p{L}*\.?$/iu.exec(cell.trim());
  if (!weekday) {
    const written = readDate(cell, 'day first', '2099-12-31');
    if (written) return written;
    // A day without a year is that of the event.
    return readDate(`${cell.trim()} ${first.slice(0, 4)}`, 'day first', '2099-12-31');
  }
  const wanted = 'sun mon tue wed thu fri sat'.split(' ').indexOf(weekday[1]!.toLowerCase());
  for (const by of [0, 1, 2, 3, -1, 4, -2, 5]) {
    const day = shiftDate(first, by);
    if (weekdayNumber(day) === wanted) return day;
  }
  return null;
}

const whole = (cell: string): number | null => (/^\d{1,5}$/u.test(cell.trim()) ? Number(cell) : null);

/**
 * Reads a list of shifts, a line each, as it is typed or pasted from a table: role, place, day, from, to, how many, at least, name,
 * importance, briefing; in another order where the first line says so. A day that is left out is that of the line above, or the first
 * of the event; a role that is left out that of the line above. A place that is left out is the usual one of the role, by its name in
 * small letters. `9–12:30` may stand in one cell. An end that is not after its start is on the next day.
 */
export function readShifts(
  text: string,
  first: CalendarDate,
  usual: ReadonlyMap<string, string> = new Map(),
): ListedLine[] {
  const { data } = Papa.parse<string[]>(text.trim(), {
    delimiter: text.includes('\t') ? '\t' : text.includes(';') ? ';' : ',',
  });
  const [head = []] = data;
  const named = head.map((cell) => headings.find(([, words]) => words.test(cell.trim()))?.[0] ?? null);
  const headed = named.filter(Boolean).length >= 2;
  const order: readonly (Column | null)[] = headed ? named : columns;
  let role = '';
  let day = first;
  return data.slice(headed ? 1 : 0, mostLines + 1).flatMap((cells, at): ListedLine[] => {
    if (!cells.some((c) => c.trim())) return [];
    const line = at + (headed ? 2 : 1);
    const cell = (of: Column): string => {
      const n = order.indexOf(of);
      return n < 0 ? '' : (cells[n] ?? '').trim();
    };
    const wrong = (problem: LineProblem): ListedLine[] => [{ line, shift: null, problem }];
    role = cell('role') || role;
    if (!role) return wrong('no-role');
    const on = cell('day') ? dayOf(cell('day'), first) : day;
    if (!on) return wrong('no-day');
    day = on;
    const [start, end = cell('to')] = cell('to')
      ? [cell('from')]
      : cell('from').split(/\s*(?:–|—|-|\bto\b)\s*/u);
    const from = readTimeOfDay(start ?? '');
    if (!from) return wrong('no-start');
    const to = readTimeOfDay(end);
    if (!to) return wrong('no-end');
    const wished = cell('wished') ? whole(cell('wished')) : 1;
    const least = cell('least') ? whole(cell('least')) : wished;
    if (wished === null || wished < 1 || wished > 200 || least === null) return wrong('no-number');
    if (least > wished) return wrong('least-above');
    const importance = importances.find((i) => i === cell('importance').toLowerCase()) ?? 'usual';
    return [
      {
        line,
        problem: null,
        shift: {
          name: cell('name'),
          role,
          place: cell('place') || (usual.get(role.toLowerCase()) ?? ''),
          startsLocal: `${on}T${from}`,
          endsLocal: `${to <= from ? shiftDate(on, 1) : on}T${to}`,
          least,
          wished,
          importance,
          briefing: cell('briefing'),
        },
      },
    ];
  });
}
