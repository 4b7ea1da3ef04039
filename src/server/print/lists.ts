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

/** A table on A4 with its heading on every page, a box to tick in front of each row, and pages counted. */
export const listPdf = (
  { title, about }: { title: string; about: string },
  columns: readonly PrintedColumn[],
  rows: readonly (readonly string[])[],
): Promise<Buffer> => {
  const [left, top, line, bottom] = [40, 40, 21, 800];
  return pdfOf({ size: 'A4', margin: 0, title }, (pdf) => {
    const perPage = Math.floor((bottom - top - 70) / line);
    const pages = Math.max(1, Math.ceil(rows.length / perPage));
    const width = columns.reduce((sum, c) => sum + c.width, 0) + 20;
    for (let page = 0; page < pages; page += 1) {
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
      writeLine(pdf, 'text', `${page + 1} / ${pages}`, { x: left, y: top, size: 10, width, align: 'right' });
      let y = top + 48;
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
        y += line;
        pdf
          .moveTo(left, y)
          .lineTo(left + width, y)
          .lineWidth(0.5)
          .strokeColor(inks.line)
          .stroke();
      };
      put(
        columns.map((c) => c.heading),
        inks.soft,
      );
      for (const row of rows.slice(page * perPage, (page + 1) * perPage)) {
        pdf
          .rect(left + 2, y + 6, 10, 10)
          .lineWidth(0.8)
          .strokeColor(inks.ink)
          .stroke();
        put(row, inks.ink);
      }
    }
  });
};
