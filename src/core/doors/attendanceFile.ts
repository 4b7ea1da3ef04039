import { fold } from '#core/contacts/names.ts';
import { emailKey } from '#core/contacts/reach.ts';
import type { Table } from '#core/exchange/table.ts';
import { dateOrderOf, readDate, readYesNo } from '#core/imports/cells.ts';
import type { CalendarDate, Instant, Zone } from '#core/time/clock.ts';
import { merged } from '#core/time/stretches.ts';
import { meaningOf } from '#core/time/wallTime.ts';
import type { ProblemCode } from '#core/words/problems.ts';
import type { Stay } from './marks.ts';
import { readPassCode } from './passCode.ts';

/** What a column of a list of who was there can say. A list of the doors says who came, the log of a room online when each joined and left. */
type AttendanceColumn =
  | 'pass'
  | 'email'
  | 'given'
  | 'family'
  | 'name'
  | 'from'
  | 'until'
  | 'minutes'
  | 'there';

const headings: readonly [RegExp, AttendanceColumn][] = [
  [/^pass|^code$|ticket (?:no|number|code)|billet/iu, 'pass'],
  [/e-?mail|courriel|^mail$/iu, 'email'],
  [/^(?:first|given|fore)[ -]?names?$|^prénoms?$/iu, 'given'],
  [/^(?:last|family|sur)[ -]?names?$|nom de famille/iu, 'family'],
  [/duration|minutes|^time in|durée/iu, 'minutes'],
  [/join|arriv|^in$|^from$|came in|^check.?in|entré|^start/iu, 'from'],
  [/leave|^left|^out$|^until$|^to$|check.?out|sorti|départ|^end/iu, 'until'],
  [/attend|present|présen|^there$|came|^here$/iu, 'there'],
  [/name|^nom|^who$|participant|guest|user|personne/iu, 'name'],
];

/** Which column says what: the first that fits, each meaning once. */
export function attendanceColumns(of: readonly string[]): Partial<Record<AttendanceColumn, number>> {
  const found: Partial<Record<AttendanceColumn, number>> = {};
  of.forEach((heading, at) => {
    const meaning = headings.find(
      ([words, column]) => words.test(heading.trim()) && found[column] === undefined,
    )?.[1];
    if (meaning) found[meaning] = at;
  });
  return found;
}

/** When what a list is about takes place. */
export interface FileFrame {
  from: Instant;
  until: Instant;
  /** The days it takes place on; times of day alone are understood where there is one. */
  dates: readonly CalendarDate[];
  zone: Zone;
}

/** One row of the list. */
export interface AttendanceRow {
  line: number;
  pass: string | null;
  email: string;
  name: string;
  /** When they were there; nothing where the row says that they were not. */
  stay: { from: Instant; until: Instant | null } | null;
  /** Why the row cannot be used. */
  problem: ProblemCode | null;
}

const timeOfDay = /(?<![\d.])(\d{1,2})(?:[:h.])(\d{2})(?::(\d{2}))?(?:\.\d+)?\s*([ap])?\.?m?\.?/iu;

/** Reads a moment: with an offset as it stands, else by the clock on the wall at the event. Null where it says none. */
function readMoment(
  cell: string,
  { dates, zone }: FileFrame,
  order: Parameters<typeof readDate>[1],
): Instant | null {
  const text = cell.trim();
  if (/^\d{4}-\d\d-\d\dT.*(?:Z|[+-]\d\d:?\d\d)$/u.test(text)) {
    const at = Date.parse(text);
    return Number.isNaN(at) ? null : new Date(at).toISOString();
  }
  const time = timeOfDay.exec(text);
  if (!time) return null;
  const [, h = '', m = '', s = '00', half] = time;
  const hour = half ? (Number(h) % 12) + (half.toLowerCase() === 'p' ? 12 : 0) : Number(h);
  if (hour > 23 || Number(m) > 59 || Number(s) > 59 || (half && Number(h) > 12)) return null;
  const before = text.slice(0, time.index).replace(/[\s,T]+$/u, '');
  const date = before ? readDate(before, order) : dates.length === 1 ? dates[0]! : null;
  if (!date) return null;
  const meaning = meaningOf(`${date}T${String(hour).padStart(2, '0')}:${m}`, zone);
  if (meaning.kind === 'gap') return null;
  const minute = meaning.kind === 'repeated' ? meaning.first : meaning.instant;
  return new Date(Date.parse(minute) + Number(s) * 1000).toISOString();
}

/** How far around what it is about a list may say that somebody was there, in milliseconds: a room online opens early. */
const around = 6 * 3_600_000;

/**
 * Reads a list of who was there. Dates in numbers are understood the way round in which they are days of the event. Without times somebody was there from
 * beginning to end; with minutes alone, for so long from the beginning.
 */
export function readAttendance(
  table: Table,
  frame: FileFrame,
): { rows: AttendanceRow[]; columns: AttendanceColumn[]; problem: ProblemCode | null } {
  const at = attendanceColumns(table.headings);
  const columns = Object.keys(at) as AttendanceColumn[];
  const who = (['pass', 'email', 'name', 'given', 'family'] as const).some((c) => at[c] !== undefined);
  if (!who) return { rows: [], columns, problem: 'list-without-people' };
  const cell = (cells: readonly string[], column: AttendanceColumn) =>
    at[column] === undefined ? '' : (cells[at[column]] ?? '').trim();
  const order = orderOf(
    table.rows.flatMap(({ cells }) => [cell(cells, 'from'), cell(cells, 'until')]),
    frame.dates,
  );
  const rows = table.rows.map(({ line, cells }): AttendanceRow => {
    const name = cell(cells, 'name') || `${cell(cells, 'given')} ${cell(cells, 'family')}`.trim();
    const row = { line, pass: readPassCode(cell(cells, 'pass')), email: cell(cells, 'email'), name };
    const wrong = (problem: ProblemCode) => ({ ...row, stay: null, problem });
    const [from, until, minutes] = [cell(cells, 'from'), cell(cells, 'until'), cell(cells, 'minutes')];
    if (!row.pass && !row.email && !row.name) return wrong('row-names-nobody');
    const there = cell(cells, 'there');
    if (there && readYesNo(there) === false) return { ...row, stay: null, problem: null };
    const [began, ended] = [from && readMoment(from, frame, order), until && readMoment(until, frame, order)];
    if (began === null || ended === null) return wrong('time-not-read');
    // Who is on the list without a time where the others have one was not there.
    if (at.from !== undefined && !from && !there) return { ...row, stay: null, problem: null };
    const start = began || frame.from;
    const long = Number(minutes.replace(',', '.').replace(/\s*min.*$/iu, ''));
    if (minutes && !until && !(long >= 0 && long <= 10_000)) return wrong('time-not-read');
    const end =
      ended ||
      (minutes ? new Date(Date.parse(start) + long * 60_000).toISOString() : from ? null : frame.until);
    if (end !== null && end < start) return wrong('left-before');
    if (
      Date.parse(start) > Date.parse(frame.until) + around ||
      Date.parse(end ?? start) < Date.parse(frame.from) - around
    )
      return wrong('not-at-the-event');
    return { ...row, stay: { from: start, until: end }, problem: null };
  });
  return { rows, columns, problem: null };
}

/** Which part of dates in numbers comes first: as they say themselves, else the way round in which they are days of the event. */
function orderOf(cells: readonly string[], dates: readonly CalendarDate[]): ReturnType<typeof dateOrderOf> {
  const days = cells.map((c) => c.replace(/[\sT,]+\d{1,2}[:h.]\d{2}.*$/u, '')).filter(Boolean);
  const said = dateOrderOf(days);
  if (said) return said;
  const fits = (order: 'day first' | 'month first') =>
    days.filter((d) => dates.includes(readDate(d, order) ?? '')).length;
  const [day, month] = [fits('day first'), fits('month first')];
  return day === month ? null : day > month ? 'day first' : 'month first';
}

/** Somebody with a seat, as a row can name them. */
export interface Named {
  registrationId: string;
  given: string;
  family: string;
  emails: readonly string[];
  pass: string | null;
}

/** Whom a row names: one for sure, or those it may be. */
export interface Meant {
  sure: string | null;
  maybe: string[];
}

/** The most that are shown for one row to choose from. */
const mostMaybe = 6;

/**
 * Whom a row names among those who have a seat: by their pass; by their email address, with the name where a family shares one; by the whole name where one
 * alone has it. Anything less is for somebody to decide.
 */
export function meantBy(
  row: Pick<AttendanceRow, 'pass' | 'email' | 'name'>,
  people: readonly Named[],
): Meant {
  const sure = (p: Named): Meant => ({ sure: p.registrationId, maybe: [] });
  const byPass = row.pass && people.find((p) => p.pass === row.pass);
  if (byPass) return sure(byPass);
  const name = fold(row.name).trim();
  const named = (p: Named) => fold(`${p.given} ${p.family}`).trim();
  // "Reed, Mai" is written the other way round.
  const turned = row.name.includes(',') ? fold(row.name.split(',').reverse().join(' ')).trim() : name;
  const same = (p: Named) => name !== '' && [name, turned].includes(named(p));
  const email = row.email ? emailKey(row.email) : '';
  const ofEmail = email ? people.filter((p) => p.emails.some((e) => emailKey(e) === email)) : [];
  const both = ofEmail.filter(same);
  if (both.length === 1) return sure(both[0]!);
  if (ofEmail.length === 1 && (!name || sharesWord(name, named(ofEmail[0]!)))) return sure(ofEmail[0]!);
  const ofName = people.filter(same);
  if (ofName.length === 1 && !ofEmail.length) return sure(ofName[0]!);
  const maybe = [
    ...new Set([...both, ...ofEmail, ...ofName, ...people.filter((p) => sharesWord(name, named(p)))]),
  ];
  return { sure: null, maybe: maybe.slice(0, mostMaybe).map((p) => p.registrationId) };
}

/** True where two names have a word in common, or a word of three letters or more begins one of the other. */
function sharesWord(a: string, b: string): boolean {
  const words = (of: string) => of.split(' ').filter((w) => w.length >= 2);
  return words(a).some((w) =>
    words(b).some((v) => v === w || (w.length >= 3 && v.length >= 3 && (v.startsWith(w) || w.startsWith(v)))),
  );
}

/** Stays of one person put together, as where two of their devices were in one room. One without an end lasts until `until`. */
export function staysTogether(stays: readonly Stay[], until: Instant): Stay[] {
  return merged(
    stays.map(({ from, until: left }): [number, number] => [
      Date.parse(from),
      Math.max(Date.parse(from), Date.parse(left ?? until)),
    ]),
  ).map(([from, to]) => ({ from: new Date(from).toISOString(), until: new Date(to).toISOString() }));
}
