import { inks, pdfOf, widthOf, writeLine } from './pdf.ts';

/** One column of a printed table: its heading, how wide it is in points, and on which side its texts stand. */
export interface PrintedColumn {
  heading: string;
  width: number;
  right?: boolean;
}

/** A text that runs out of its column is cut, and says so. */
function cut(pdf: PDFKit.PDFDocument, text: string, size: number, width: number): string {
  if (widthOf(pdf, 'text', text, size) <= width) return text;
  const letters = [...text];
  while (letters.length && widthOf(pdf, 'text', `${letters.join('')}…`, size) > width) letters.pop();
  return `${letters.join('').trimEnd()}…`;
}

/** Rows under a heading of their own; without one they stand under that of the page. */
export interface PrintedGroup {
  heading: string | null;
  rows: readonly (readonly string[])[];
}

/** A table on A4 with its heading on every page, a box to tick in front of each row, and pages counted. */
export const listPdf = (
  head: { title: string; about: string },
  columns: readonly PrintedColumn[],
  rows: readonly (readonly string[])[],
): Promise<Buffer> => groupedPdf(head, columns, [{ heading: null, rows }]);

/** The same with rows in groups. A heading never stands alone at the foot of a page, and is said again on the next. */
export const groupedPdf = (
  { title, about }: { title: string; about: string },
  columns: readonly PrintedColumn[],
  groups: readonly PrintedGroup[],
): Promise<Buffer> => {
  const [left, top, line, bottom] = [40, 40, 21, 800];
  const perPage = Math.floor((bottom - top - 70) / line);
  const pages = pagesOf(groups, perPage);
  return pdfOf({ size: 'A4', margin: 0, title }, (pdf) => {
    const width = columns.reduce((sum, c) => sum + c.width, 0) + 20;
    for (const [page, lines] of pages.entries()) {
      pdf.addPage();
      pdf.fillColor(inks.ink);
      writeLine(pdf, 'name', cut(pdf, title, 18, width - 60), {
        x: left,
        y: top,
        size: 18,
        width: width - 60,
      });
      pdf.fillColor(inks.soft);
      writeLine(pdf, 'text', about, { x: left, y: top + 24, size: 10, width });
      writeLine(pdf, 'text', `${page + 1} / ${pages.length}`, {
        x: left,
        y: top,
        size: 10,
        width,
        align: 'right',
      });
      let y = top + 48;
      const rule = () => {
        y += line;
        pdf
          .moveTo(left, y)
          .lineTo(left + width, y)
          .lineWidth(0.5)
          .strokeColor(inks.line)
          .stroke();
      };
      const put = (cells: readonly string[], color: string) => {
        let x = left + 20;
        pdf.fillColor(color);
        for (const [at, column] of columns.entries()) {
          writeLine(pdf, 'text', cut(pdf, cells[at] ?? '', 10, column.width - 6), {
            x,
            y: y + 5,
            size: 10,
            width: column.width - 6,
            align: column.right ? 'right' : 'left',
          });
          x += column.width;
        }
        rule();
      };
      put(
        columns.map((c) => c.heading),
        inks.soft,
      );
      for (const one of lines) {
        if (typeof one === 'string') {
          pdf.fillColor(inks.ink);
          writeLine(pdf, 'name', cut(pdf, one, 12, width), { x: left, y: y + 4, size: 12, width });
          rule();
          continue;
        }
        pdf
          .rect(left + 2, y + 6, 10, 10)
          .lineWidth(0.8)
          .strokeColor(inks.ink)
          .stroke();
        put(one, inks.ink);
      }
    }
  });
};

/** What stands on each page: headings as text, rows as cells. */
function pagesOf(groups: readonly PrintedGroup[], perPage: number): (string | readonly string[])[][] {
  const pages: (string | readonly string[])[][] = [[]];
  for (const { heading, rows } of groups) {
    if (heading !== null && pages.at(-1)!.length > perPage - 2) pages.push([]);
    if (heading !== null) pages.at(-1)!.push(heading);
    for (const row of rows) {
      if (pages.at(-1)!.length >= perPage) pages.push(heading === null ? [] : [heading]);
      pages.at(-1)!.push(row);
    }
  }
  return pages;
}
