import Papa from 'papaparse';
import type { Said } from '#core/words/filling.ts';
import type { ProblemCode } from '#core/words/problems.ts';
import { isVCard, readVCards } from './vcard.ts';

/** Limits of an imported file. */
const tableLimits = { bytes: 20_000_000, rows: 100_000, columns: 50, cell: 20_000 } as const;

/** A file read as a table. Rows exclude the heading and anything above it. */
export interface Table {
  encoding: 'UTF-8' | 'UTF-16LE' | 'UTF-16BE' | 'Windows-1252';
  /** What stands between cells; `vCard` for an address book, whose cards become rows. */
  delimiter: ',' | ';' | '\t' | '|' | 'vCard';
  /** Line of the heading in the file, counted from 1; 0 where there is none. */
  headingLine: number;
  headings: string[];
  rows: { line: number; cells: string[] }[];
}

/** Why a file cannot be read, in words for the person who chose it. */
export class TableProblem extends Error {
  constructor(
    readonly code:
      | 'not-text'
      | 'no-heading'
      | 'too-many-columns'
      | 'broken-quote'
      | 'cell-too-long'
      | 'too-long'
      | 'empty',
    readonly said: Said<ProblemCode>,
  ) {
    super(said.code);
  }
}

const picturesAndSheets: [number[], string][] = [
  [[0x50, 0x4b, 3, 4], 'a spreadsheet or an archive'],
  [[0xd0, 0xcf, 0x11, 0xe0], 'an old spreadsheet'],
  [[0x89, 0x50, 0x4e, 0x47], 'a picture'],
  [[0xff, 0xd8, 0xff], 'a picture'],
  [[0x47, 0x49, 0x46, 0x38], 'a picture'],
  [[0x25, 0x50, 0x44, 0x46], 'a PDF'],
];

/**
 * Decodes bytes: by byte-order mark, else as strict UTF-8, else as Windows-1252 (which fits any bytes, so control
 * characters that no text has are refused). Throws TableProblem `not-text`.
 */
function decode(bytes: Uint8Array): { text: string; encoding: Table['encoding'] } {
  if (bytes[0] === 0xff && bytes[1] === 0xfe)
    return { text: new TextDecoder('utf-16le').decode(bytes), encoding: 'UTF-16LE' };
  if (bytes[0] === 0xfe && bytes[1] === 0xff)
    return { text: new TextDecoder('utf-16be').decode(bytes), encoding: 'UTF-16BE' };
  const head = bytes.subarray(0, 4096);
  const what = picturesAndSheets.find(([mark]) => mark.every((b, at) => head[at] === b))?.[1];
  if (what) throw new TableProblem('not-text', { code: 'file-is', params: { what } });
  // UTF-16 without its mark: every other byte of plain text is nothing.
  const nothings = (odd: number) => head.reduce((n, b, at) => n + (b === 0 && at % 2 === odd ? 1 : 0), 0);
  if (nothings(1) > head.length * 0.3)
    return { text: new TextDecoder('utf-16le').decode(bytes), encoding: 'UTF-16LE' };
  if (nothings(0) > head.length * 0.3)
    return { text: new TextDecoder('utf-16be').decode(bytes), encoding: 'UTF-16BE' };
  const controls = head.reduce((n, b) => n + (b < 9 || (b > 13 && b < 32) ? 1 : 0), 0);
  if (controls > 0) throw new TableProblem('not-text', { code: 'file-not-text' });
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), encoding: 'UTF-8' };
  } catch {
    return { text: new TextDecoder('windows-1252').decode(bytes), encoding: 'Windows-1252' };
  }
}

/**
 * Reads a file as a table: finds encoding, delimiter and the heading row below title rows, drops empty rows.
 * Throws TableProblem with the line where it can be said.
 */
export function readTable(bytes: Uint8Array): Table {
  if (bytes.length > tableLimits.bytes) throw new TableProblem('too-long', { code: 'file-large' });
  const { text, encoding } = decode(bytes);
  // Nothing prints these, and the database refuses the first of them.
  const unprintable = /(?![\n\r\t\u0085])\p{Cc}/gu;
  const body = text.replace(/^\ufeff/u, '').replace(unprintable, '');
  if (!body.trim()) throw new TableProblem('empty', { code: 'file-empty' });
  if (isVCard(body)) return vCardTable(body, encoding);
  const delimiter = delimiterOf(body);
  const parsed = Papa.parse<string[]>(body, { delimiter, skipEmptyLines: false });
  const quote = parsed.errors.find((e) => e.type === 'Quotes');
  if (quote)
    throw new TableProblem('broken-quote', { code: 'broken-quote', params: { line: (quote.row ?? 0) + 1 } });
  let line = 1;
  const rows = parsed.data.map((cells) => {
    const row = { line, cells: cells.map((c) => plainCell(c.trim())) };
    line += 1 + cells.reduce((n, c) => n + (c.match(/\n/gu)?.length ?? 0), 0);
    return row;
  });
  for (const row of rows)
    if (row.cells.some((c) => c.length > tableLimits.cell))
      throw new TableProblem('cell-too-long', { code: 'cell-too-long', params: { line: row.line } });
  const filled = rows.filter((r) => r.cells.some(Boolean));
  const heading = filled.findIndex((_, at) => looksLikeHeading(filled, at));
  const bare = heading < 0 && listsPeople(filled);
  if (heading < 0 && !bare) throw new TableProblem('no-heading', { code: 'no-heading' });
  const headings = bare
    ? Array.from({ length: Math.max(...filled.map((r) => r.cells.length)) }, (_, at) => unnamed(at))
    : uniqueHeadings(filled[heading]!.cells);
  if (headings.length > tableLimits.columns)
    throw new TableProblem('too-many-columns', {
      code: 'too-many-columns',
      params: { columns: headings.length, most: tableLimits.columns },
    });
  // A heading printed again on every page is no row.
  const again = filled[heading]?.cells.join('\u0000');
  const under = filled.slice(heading + 1).filter((r) => r.cells.join('\u0000') !== again);
  if (under.length > tableLimits.rows) throw new TableProblem('too-long', { code: 'too-many-rows' });
  return {
    encoding,
    delimiter,
    headingLine: filled[heading]?.line ?? 0,
    headings,
    rows: under.map((r) => ({ line: r.line, cells: headings.map((_, at) => r.cells[at] ?? '') })),
  };
}

function vCardTable(text: string, encoding: Table['encoding']): Table {
  const { headings, rows } = readVCards(text);
  if (rows.length > tableLimits.rows) throw new TableProblem('too-long', { code: 'too-many-cards' });
  for (const row of rows)
    if (row.cells.some((c) => c.length > tableLimits.cell))
      throw new TableProblem('cell-too-long', { code: 'card-too-long', params: { line: row.line } });
  return { encoding, delimiter: 'vCard', headingLine: 0, headings, rows };
}

/** A cell as it was before it was kept from running as a formula (see csv.ts). */
const plainCell = (cell: string): string => cell.replace(/^'(?=[=@+-])/u, '');

/** The delimiter that splits the first lines into the most columns, most evenly. */
function delimiterOf(text: string): Exclude<Table['delimiter'], 'vCard'> {
  // What stands in quotes parts nothing.
  const lines = text
    .split(/\r?\n/u, 30)
    .filter((l) => l.trim())
    .map((l) => l.replace(/"(?:[^"]|"")*"/gu, ''));
  const scored = ([',', ';', '\t', '|'] as const).map((d) => {
    const counts = lines.map((l) => l.split(d).length - 1);
    const typical = [...counts].sort((a, b) => a - b)[Math.floor(counts.length / 2)] ?? 0;
    const even = counts.filter((c) => c === typical).length / Math.max(1, counts.length);
    // Words of headings, parted as often as the rows below, speak louder than cells that happen to hold the sign.
    const heads = lines.slice(0, 15).some((l, at) => headingWords.test(l) && counts[at]! >= typical);
    return { d, score: typical === 0 ? 0 : typical * 0.2 + even + 1 + (heads ? 3 : 0) };
  });
  return scored.reduce((best, s) => (s.score > best.score ? s : best)).d;
}

const headingWords =
  /name|e-?mail|phone|mobile|cell|first|last|surname|given|family|street|address|postal|zip|birth|born|member|level|guest|contact|skill|date|source|subscribed|table|meal|paid|note|available|city|town|prénom|nom|courriel|téléphone/iu;

/** A heading has several short cells with letters, none of them an address, a number or a date, and a known word. */
function looksLikeHeading(rows: readonly { cells: string[] }[], at: number): boolean {
  if (at > 15) return false;
  const cells = rows[at]!.cells;
  const filled = cells.filter(Boolean);
  const widest = Math.max(...rows.slice(at, at + 20).map((r) => r.cells.filter(Boolean).length));
  if (filled.length < Math.min(2, widest)) return false;
  if (filled.some((c) => c.includes('@') || c.length > 60 || /\d{3,}/u.test(c))) return false;
  if (new Set(filled).size === 1 && filled.length > 1) return false;
  if (filled.length * 2 <= widest) return false;
  return filled.some((c) => headingWords.test(c)) || standsOverFigures(cells, rows.slice(at + 1, at + 21));
}

/** True when a column below holds addresses or numbers throughout: words above it name it. */
function standsOverFigures(cells: readonly string[], below: readonly { cells: string[] }[]): boolean {
  return cells.some((cell, at) => {
    const under = below.map((r) => r.cells[at] ?? '').filter(Boolean);
    return cell && under.length > 1 && under.filter((c) => /@|\d{3}/u.test(c)).length > under.length * 0.8;
  });
}

/** What a column is called that no heading names. */
export const unnamed = (at: number): string => `Column ${at + 1}`;

/** True when rows without a heading list people all the same: from the first on, one column holds what reaches them. */
function listsPeople(rows: readonly { cells: string[] }[]): boolean {
  const some = rows.slice(0, 50);
  const reaches = (cell: string | undefined) =>
    /^\S+@\S+\.\S+$|@\S+\.\S+>?$|^[+(]?\d[\d\s().-]{8,}$/u.test(cell ?? '');
  return (some[0]?.cells ?? []).some(
    (first, at) => reaches(first) && some.filter((r) => reaches(r.cells[at])).length > some.length * 0.6,
  );
}

function uniqueHeadings(cells: readonly string[]): string[] {
  let end = cells.length;
  while (end > 0 && !cells[end - 1]) end -= 1;
  const seen = new Map<string, number>();
  return cells.slice(0, end).map((c, at) => {
    const name = c || unnamed(at);
    const n = (seen.get(name) ?? 0) + 1;
    seen.set(name, n);
    return n === 1 ? name : `${name} (${n})`;
  });
}
