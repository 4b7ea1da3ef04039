import { isEmail, type ReachKind, readPhone } from '#core/contacts/reach.ts';
import type { CalendarDate } from '#core/time/clock.ts';
import { reachKindIn } from './headings.ts';
import type { DateOrder } from './mapping.ts';

const months = 'jan feb mar apr may jun jul aug sep oct nov dec'.split(' ');
const frenchMonths = 'janv févr mars avr mai juin juil août sept oct nov déc'.split(' ');

const numeric = /^(\d{1,2})\s?[/.-]\s?(\d{1,2})\s?[/.-]\s?(\d{4}|\d{2})\.?$/u;

/** True of a date in numbers whose day or month comes first. */
export const isInNumbers = (cell: string): boolean => numeric.test(cell.trim());

/**
 * What a column of dates says about its order: parts above twelve can only be days. Null when no cell tells and some
 * could be read either way; then somebody has to be asked.
 */
export function dateOrderOf(cells: readonly string[]): DateOrder | null {
  let dayFirst = 0;
  let monthFirst = 0;
  let open = 0;
  for (const cell of cells) {
    const parts = numeric.exec(cell.trim());
    if (!parts) continue;
    const [a, b] = [Number(parts[1]), Number(parts[2])];
    if (a > 12 && b <= 12) dayFirst += 1;
    else if (b > 12 && a <= 12) monthFirst += 1;
    else if (a !== b && a <= 12 && b <= 12) open += 1;
  }
  if (dayFirst === 0 && monthFirst === 0) return open ? null : 'day first';
  return monthFirst > dayFirst ? 'month first' : 'day first';
}

/**
 * Reads a date: y-m-d, numbers in the order given, or with the month in words. Null when there is no such date, or
 * when its order would have to be guessed (`order` null). A two-digit year that would be after `notAfter` is of the
 * century before.
 */
export function readDate(
  cell: string,
  order: DateOrder | null,
  notAfter: CalendarDate = '2030-12-31',
): CalendarDate | null {
  const text = cell
    .trim()
    .replace(/,?[T ]\d{1,2}:\d{2}.*$/u, '')
    .replace(/^(?:mon|tue|wed|thu|fri|sat|sun)\p{L}*\.?,?\s+(?=\d|\p{L})/iu, '');
  const iso = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})$/u.exec(text);
  if (iso) return dateOf(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const run = /^((?:19|20)\d\d)(\d\d)(\d\d)$/u.exec(text);
  if (run) return dateOf(Number(run[1]), Number(run[2]), Number(run[3]));
  // Days since the end of 1899, as spreadsheets count them; 10,000 is a day of 1927, 59,999 one of 2064.
  if (/^[1-5]\d{4}(?:\.\d+)?$/u.test(text))
    return new Date(Date.UTC(1899, 11, 30) + Math.floor(Number(text)) * 86_400_000)
      .toISOString()
      .slice(0, 10);
  const parts = numeric.exec(text);
  if (parts) {
    const [a, b] = [Number(parts[1]), Number(parts[2])];
    const year = yearOf(parts[3]!, notAfter);
    // The German dot puts the day first whatever the column does.
    const by = a > 12 ? 'day first' : b > 12 ? 'month first' : /\./u.test(text) ? 'day first' : order;
    if (a === b) return dateOf(year, a, b);
    if (!by) return null;
    return by === 'day first' ? dateOf(year, b, a) : dateOf(year, a, b);
  }
  const words =
    /^(\d{1,2})(?:st|nd|rd|th|er)?[\s-]+(\p{L}{3,})\.?,?[\s-]+(\d{4}|\d{2})$/u.exec(text) ??
    /^(?<m>\p{L}{3,})\.?\s+(?<d>\d{1,2})(?:st|nd|rd|th)?,?\s+(?<y>\d{4})$/u.exec(text);
  if (!words) return null;
  const [day, month, year] = words.groups
    ? [words.groups.d!, words.groups.m!, words.groups.y!]
    : [words[1]!, words[2]!, words[3]!];
  const name = month.toLowerCase();
  const at = months.findIndex((m) => name.startsWith(m));
  const inFrench = frenchMonths.findIndex((m) => name.startsWith(m));
  const number = (at < 0 ? inFrench : at) + 1;
  return number ? dateOf(yearOf(year, notAfter), number, Number(day)) : null;
}

const yearOf = (text: string, notAfter: CalendarDate): number => {
  const year = Number(text);
  if (text.length > 2) return year;
  return 2000 + year > Number(notAfter.slice(0, 4)) ? 1900 + year : 2000 + year;
};

function dateOf(year: number, month: number, day: number): CalendarDate | null {
  const date = new Date(Date.UTC(year, month - 1, day));
  return year > 1850 && date.getUTCMonth() === month - 1 && date.getUTCDate() === day
    ? date.toISOString().slice(0, 10)
    : null;
}

const yes =
  /^(?:y|yes|yep|yes,? please|please( do)?|true|t|1|x|on|ok|okay|oui|o|vrai|subscribed|confirmed|consented|agreed|granted|accepted|opted[ -]?in|opt[ -]?in|in|active|✓|✔|☑|ja|si|sí)$/iu;
const no =
  /^(?:n|no|nope|no,? (?:thanks|thank you)|false|f|0|-|off|non|faux|un-?sub(?:scribed?)?|not subscribed|opted[ -]?out|opt[ -]?out|out|inactive|never|stop|cleaned|bounced|complained|declined|refused|revoked|withdrawn|✗|✘|☐|nein)$/iu;

/** Reads yes or no in any usual spelling; null for anything else. */
export function readYesNo(cell: string): boolean | null {
  const text = cell.trim().replace(/[.!]$/u, '');
  if (yes.test(text)) return true;
  if (no.test(text)) return false;
  return null;
}

/** Parts a cell that holds several values: at semicolons, slashes between blanks, bars, line breaks and “or”. */
const valuesOf = (cell: string): string[] =>
  // Runs of blanks become one and looking ahead is bounded, so that a long cell takes time in proportion to its length.
  cell
    .replace(/[^\S\n]+/gu, ' ')
    .split(/ ?[;|\n] ?| \/ | (?:or|ou|and|et|&) |, |(?<=\d{4}) ?\/ ?(?=[+(]?\d{3})|,(?=[^\s,;]{1,254}@)/u)
    .map((v) => v.trim())
    .filter(Boolean);

const blank = /^(?:n\/?a|none|nil|null|unknown|no|no (?:e-?mail|phone|cell|mobile)|same|[-–—.?]+|tba|tbc)$/iu;
/** True for what people write where there is nothing to write: "n/a", "none", a dash. */
export const saysNothing = (text: string): boolean => blank.test(text.trim());

const label = '(?:tel|phone|mobile|mob|cell|home|work|office|house|m|t|h|w|c|o)';
const before = new RegExp(`^${label}(?:[.:]+\\s*|\\s+(?=[+(\\d]))`, 'iu');
const behind = new RegExp(`\\s*(?:\\(${label}\\)|\\b${label})$`, 'iu');

const letters: Record<string, ReachKind> = { m: 'mobile', c: 'mobile', h: 'home', w: 'work', o: 'work' };
/** What a telephone or an email is for, by the label beside it. */
function kindIn(value: string): ReachKind {
  const said = (before.exec(value)?.[0] ?? behind.exec(value)?.[0] ?? '')
    .replace(/[^\p{L}]/gu, '')
    .toLowerCase();
  return letters[said] ?? reachKindIn(said);
}

/** The most addresses and numbers that one cell is read for, and how long one is with its label (RFC 5321 4.5.3.1). */
const mostReach = 30;
const longestReach = 320;

/** The emails and telephones of a cell. */
export interface ReachInCell {
  emails: string[];
  /** E.164. */
  phones: string[];
  /** What they are for, where it is said: by address or number. */
  kinds: Record<string, ReachKind>;
  /** What is neither. */
  rest: string[];
}

/** The emails and telephones of a cell that mixes them, and what is neither. */
export function readReachCell(cell: string, country: string): ReachInCell {
  const read: ReachInCell = { emails: [], phones: [], kinds: {}, rest: [] };
  const keep = (list: string[], value: string, kind: ReachKind) => {
    list.push(value);
    if (kind) read.kinds[value] = kind;
  };
  const values = valuesOf(cell);
  // Nobody has more; what is beyond is not looked at one by one.
  if (values.length > mostReach) read.rest.push(values.slice(mostReach).join('; '));
  for (const value of values.slice(0, mostReach)) {
    if (saysNothing(value)) continue;
    if (value.length > longestReach) {
      read.rest.push(value);
      continue;
    }
    const kind = kindIn(value);
    const plain = value.replace(before, '').replace(behind, '');
    const address =
      /<([^<>\s]+@[^<>\s]+)>/u.exec(value)?.[1] ?? plain.replace(/^mailto:/iu, '').replace(/[,;.]$/u, '');
    if (isEmail(address)) keep(read.emails, address.trim(), kind);
    else if (value.includes('@')) {
      // Email and telephone with nothing but a blank between them.
      const inner = value.split(/\s+/u);
      const email = inner.find((part) => isEmail(part));
      const other = email ? readPhone(inner.filter((part) => part !== email).join(' '), country) : null;
      if (email) read.emails.push(email);
      else read.rest.push(value);
      if (other) read.phones.push(other);
    } else {
      const number = readPhone(plain.replace(/\.0$/u, ''), country);
      if (number) keep(read.phones, number, kind);
      else read.rest.push(value);
    }
  }
  return read;
}
