import Papa from 'papaparse';

/**
 * Writes a CSV file (RFC 4180, UTF-8 with byte-order mark so that spreadsheets read the accents). A cell that a
 * spreadsheet would run as a formula gets a leading apostrophe.
 */
export function writeCsv(
  headings: readonly string[],
  rows: readonly (readonly (string | number | null)[])[],
): string {
  const body = Papa.unparse(
    {
      fields: [...headings],
      data: rows.map((r) => r.map((c) => (c === null ? '' : typeof c === 'number' ? c : harmless(c)))),
    },
    { newline: '\r\n' },
  );
  return `\ufeff${body}\r\n`;
}

/** Keeps telephone numbers (+1…) and plain negative numbers as they are. */
function harmless(cell: string): string {
  return /^[=@\t\r]|^[+-](?!\d[\d\s().-]*$)/u.test(cell) ? `'${cell}` : cell;
}
