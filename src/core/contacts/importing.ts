import type { Table } from '#core/exchange/table.ts';
import type { CalendarDate } from '#core/time/clock.ts';
import { sayShortDate } from '#core/time/say.ts';
import { type Candidate, type Described, decide } from './match.ts';
import { fullName, splitName, tidyName } from './names.ts';
import { emailKey, isEmail, readPhone } from './reach.ts';

/** What a column can mean. `leave` is not imported. */
export const columnMeanings = [
  'leave',
  'given name',
  'family name',
  'whole name',
  'email',
  'phone',
  'street',
  'postal code',
  'birth date',
  'member number',
  'member since',
  'member level',
  'emergency name',
  'emergency phone',
] as const;
export type ColumnMeaning = (typeof columnMeanings)[number];

export type DateOrder = 'day first' | 'month first';

/** How a file's columns are read. */
export interface Mapping {
  columns: ColumnMeaning[];
  dateOrder: DateOrder;
}

/** One row of a file, understood. */
export interface PersonRow extends Described {
  street: string | null;
  membership: { number: string | null; since: string | null; level: string | null } | null;
  emergency: { name: string; phone: string | null } | null;
}

export type RowVerdict = 'new' | 'known' | 'look' | 'rejected';

export interface CheckedRow {
  line: number;
  verdict: RowVerdict;
  reasons: string[];
  person: PersonRow | null;
  /** The contact it is (`known`) or may be (`look`). */
  contactId: string | null;
  /** Line of an earlier row in the same file that is the same person. */
  sameAsLine: number | null;
  householdOf: string | null;
}

const meaningsByHeading: [RegExp, ColumnMeaning][] = [
  [/emergency.*(phone|mobile|tel|number)|ice phone/iu, 'emergency phone'],
  [/emergency/iu, 'emergency name'],
  [/e-?mail|courriel/iu, 'email'],
  [/mobile|phone|^tel|cell|téléphone/iu, 'phone'],
  [/^(first|given|fore)|prénom/iu, 'given name'],
  [/^(last|family|sur)|nom de famille/iu, 'family name'],
  [/member\s*(no|number|#|id)|^no\.?$/iu, 'member number'],
  [/member since|joined|since/iu, 'member since'],
  [/level|tier|category of member/iu, 'member level'],
  [/^(full )?name$|^guest$|^nom$/iu, 'whole name'],
  [/street|address|adresse/iu, 'street'],
  [/postal|zip|postcode/iu, 'postal code'],
  [/birth|born|dob/iu, 'birth date'],
];

/** Proposes what each column means, from its heading; a meaning is given out once, to the first that claims it. */
export function proposeMapping(table: Table): Mapping {
  const given = new Set<ColumnMeaning>();
  const columns = table.headings.map((heading, at): ColumnMeaning => {
    const sample = table.rows
      .slice(0, 50)
      .map((r) => r.cells[at] ?? '')
      .filter(Boolean);
    const byHeading = meaningsByHeading.find(([words]) => words.test(heading.trim()))?.[1];
    const byContents =
      sample.length > 2 && sample.filter((s) => isEmail(s)).length > sample.length * 0.7
        ? 'email'
        : undefined;
    const meaning = byHeading ?? byContents ?? 'leave';
    if (meaning === 'leave' || given.has(meaning)) return 'leave';
    given.add(meaning);
    return meaning;
  });
  const dates = columns.indexOf('birth date');
  return {
    columns,
    dateOrder: dates < 0 ? 'day first' : dateOrderOf(table.rows.map((r) => r.cells[dates] ?? '')),
  };
}

/** Infers the order of a column of dates from the parts that can only be a day; day first when nothing tells. */
export function dateOrderOf(cells: readonly string[]): DateOrder {
  let dayFirst = 0;
  let monthFirst = 0;
  for (const cell of cells) {
    const parts = /^(\d{1,2})[/.-](\d{1,2})[/.-]\d{2,4}$/u.exec(cell.trim());
    if (!parts) continue;
    if (Number(parts[1]) > 12) dayFirst += 1;
    if (Number(parts[2]) > 12) monthFirst += 1;
  }
  return monthFirst > dayFirst ? 'month first' : 'day first';
}

/** Reads a date typed as y-m-d or with the order given; null when there is no such date. Two-digit years up to 30 are 20xx. */
export function readDate(cell: string, order: DateOrder): CalendarDate | null {
  const iso = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})$/u.exec(cell.trim());
  const other = /^(\d{1,2})[/.-](\d{1,2})[/.-](\d{4}|\d{2})$/u.exec(cell.trim());
  if (!iso && !other) return null;
  let year = Number(iso ? iso[1] : other![3]);
  if (year < 100) year += year <= 30 ? 2000 : 1900;
  const first = Number(iso ? iso[2] : other![order === 'day first' ? 2 : 1]);
  const second = Number(iso ? iso[3] : other![order === 'day first' ? 1 : 2]);
  const date = new Date(Date.UTC(year, first - 1, second));
  return date.getUTCMonth() === first - 1 && date.getUTCDate() === second
    ? date.toISOString().slice(0, 10)
    : null;
}

/** Says what is wrong with a mapping as a whole, or nothing. */
export function problemsWithMapping(mapping: Mapping, columns: number): string[] {
  const problems: string[] = [];
  if (mapping.columns.length !== columns)
    problems.push(`The file has ${columns} columns, ${mapping.columns.length} meanings were given.`);
  const used = mapping.columns.filter((c) => c !== 'leave');
  const twice = used.find((c, at) => used.indexOf(c) !== at);
  if (twice) problems.push(`Two columns are set to “${twice}”.`);
  if (!used.some((c) => c === 'whole name' || c === 'given name' || c === 'family name'))
    problems.push('No column is set to a name. People need at least a name.');
  return problems;
}

/**
 * Reads one row by the mapping. Returns the person and remarks about cells that could not be read, or the reason the
 * row is rejected. The emergency contact's telephone never becomes the person's own.
 */
export function readRow(
  cells: readonly string[],
  mapping: Mapping,
  country: string,
  today: CalendarDate,
): { person: PersonRow; remarks: string[] } | { rejected: string } {
  const cell = (meaning: ColumnMeaning): string => {
    const at = mapping.columns.indexOf(meaning);
    return at < 0 ? '' : (cells[at] ?? '').trim();
  };
  const whole = cell('whole name');
  const name = whole
    ? splitName(whole)
    : { given: tidyName(cell('given name')), family: tidyName(cell('family name')) };
  if (!fullName(name)) return { rejected: 'There is no name in this row.' };
  if (fullName(name).length > 200) return { rejected: 'The name is longer than 200 characters.' };
  const remarks: string[] = [];

  const emailText = cell('email');
  const email = emailText && isEmail(emailText) ? emailText : null;
  if (emailText && !email) remarks.push(`“${emailText.slice(0, 60)}” is not an email address; left out`);
  const phoneText = cell('phone');
  const phone = phoneText ? readPhone(phoneText, country) : null;
  if (phoneText && !phone) remarks.push(`“${phoneText.slice(0, 40)}” is not a telephone number; left out`);
  const bornText = cell('birth date');
  let birthDate = bornText ? readDate(bornText, mapping.dateOrder) : null;
  if (bornText && !birthDate) remarks.push(`“${bornText.slice(0, 40)}” is not a date; left out`);
  if (birthDate && birthDate > today) {
    remarks.push(`Born on ${sayShortDate(birthDate)} ${birthDate.slice(0, 4)} is in the future; left out`);
    birthDate = null;
  }
  const emergencyName = tidyName(cell('emergency name'));
  const number = cell('member number') || null;
  const since = cell('member since') || null;
  const level = tidyLevel(cell('member level'));
  return {
    person: {
      ...name,
      email,
      phone,
      birthDate,
      postalCode: cell('postal code').toUpperCase() || null,
      street: cell('street') || null,
      membership: number || since || level ? { number, since, level } : null,
      emergency: emergencyName
        ? {
            name: emergencyName,
            phone: cell('emergency phone') ? readPhone(cell('emergency phone'), country) : null,
          }
        : null,
    },
    remarks,
  };
}

const tidyLevel = (text: string): string | null => {
  const clean = text.trim().toLowerCase();
  return clean ? clean[0]!.toUpperCase() + clean.slice(1) : null;
};

/**
 * The dry run: what would become of every row. `candidatesOf` gives the contacts a person could be (same email,
 * telephone or name). Rows are compared with the contacts and with the rows above them.
 */
export function checkRows(
  table: Table,
  mapping: Mapping,
  country: string,
  today: CalendarDate,
  candidatesOf: (person: Described) => readonly Candidate[],
): CheckedRow[] {
  const earlier = new Map<string, Candidate[]>();
  const lineOf = new Map<string, number>();
  return table.rows.map(({ line, cells }): CheckedRow => {
    const read = readRow(cells, mapping, country, today);
    const base = { line, contactId: null, sameAsLine: null, householdOf: null };
    if ('rejected' in read) return { ...base, verdict: 'rejected', reasons: [read.rejected], person: null };
    const { person, remarks } = read;
    const known = decide(person, candidatesOf(person));
    const inFile = decide(
      person,
      keysOf(person)
        .flatMap((k) => earlier.get(k) ?? [])
        .filter(uniqueById()),
    );
    remember(person, line);
    const row = { ...base, person };
    if (known.outcome === 'same')
      return {
        ...row,
        verdict: 'known',
        contactId: known.contactId,
        reasons: [...known.reasons, ...remarks],
      };
    if (inFile.outcome === 'same') {
      const same = lineOf.get(inFile.contactId!)!;
      return {
        ...row,
        verdict: 'known',
        sameAsLine: same,
        reasons: [`the same person as line ${same}`, ...remarks],
      };
    }
    if (known.outcome === 'look')
      return {
        ...row,
        verdict: 'look',
        contactId: known.contactId,
        householdOf: known.householdOf,
        reasons: [...known.reasons, ...remarks],
      };
    const household = known.householdOf;
    return { ...row, verdict: 'new', householdOf: household, reasons: [...known.reasons, ...remarks] };
  });

  function remember(person: PersonRow, line: number): void {
    const id = `line ${line}`;
    lineOf.set(id, line);
    const candidate: Candidate = {
      id,
      given: person.given,
      family: person.family,
      emails: person.email ? [person.email] : [],
      phones: person.phone ? [person.phone] : [],
      birthDate: person.birthDate ?? null,
      postalCode: person.postalCode ?? null,
    };
    for (const key of keysOf(person)) earlier.set(key, [...(earlier.get(key) ?? []), candidate]);
  }
}

const keysOf = (p: Described): string[] => [
  ...(p.email ? [`e ${emailKey(p.email)}`] : []),
  ...(p.phone ? [`p ${p.phone}`] : []),
];

function uniqueById(): (c: Candidate) => boolean {
  const seen = new Set<string>();
  return (c) => !seen.has(c.id) && Boolean(seen.add(c.id));
}
