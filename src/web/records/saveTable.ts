import { writeCsv } from '#core/exchange/csv.ts';

/** Saves a table that stands on the screen as a file, as it is read there. */
export function saveTable(name: string, [head, ...rows]: readonly (readonly string[])[]): void {
  const href = URL.createObjectURL(
    new Blob(
      [
        writeCsv(
          [...head!],
          rows.map((r) => [...r]),
        ),
      ],
      { type: 'text/csv' },
    ),
  );
  const link = document.createElement('a');
  link.href = href;
  link.download = name;
  link.click();
  URL.revokeObjectURL(href);
}
