import fc from 'fast-check';
import Papa from 'papaparse';
import { expect, test } from 'vitest';
import { writeCsv } from './csv.ts';

test('CSV cells that a spreadsheet would run are made harmless; telephones stay', () => {
  expect(
    writeCsv(
      ['Name', 'Phone', 'Note'],
      [
        ['=SUM(A1:A9)', '+19025550161', '@x'],
        ['a,b', '-5', '-cmd'],
      ],
    ),
  ).toBe("\ufeffName,Phone,Note\r\n'=SUM(A1:A9),+19025550161,'@x\r\n\"a,b\",-5,'-cmd\r\n");
});

test('whatever stands in a cell, it is read back as it was and never runs (RFC 4180)', () => {
  const cell = fc.oneof(
    fc.string({ maxLength: 20 }),
    fc.constantFrom(
      '=1+1',
      '@SUM(A1)',
      '+1 902 555 0111',
      '-5',
      '-2+3',
      '\t=1',
      '"',
      ',',
      'a\r\nb',
      '+cmd|x',
    ),
  );
  fc.assert(
    fc.property(fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 10 }), (rows) => {
      const text = writeCsv(['One', 'Two'], rows);
      expect(text.startsWith('\ufeff')).toBe(true);
      const read = Papa.parse<string[]>(text.slice(1).replace(/\r\n$/u, ''), { newline: '\r\n' }).data.slice(
        1,
      );
      expect(read).toHaveLength(rows.length);
      read.forEach((cells, at) => {
        cells.forEach((c, n) => {
          expect([rows[at]![n], `'${rows[at]![n]}`]).toContain(c);
          // Telephones and plain numbers may begin with a sign; nothing else may begin what a spreadsheet runs.
          expect(/^[=@\t\r]/u.test(c) || /^[+-](?!\d[\d\s().-]*$)/u.test(c)).toBe(false);
        });
      });
    }),
  );
});
