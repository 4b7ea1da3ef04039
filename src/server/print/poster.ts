import { drawCode, inks, pdfOf, write } from './pdf.ts';

/** What a poster says, from its top to its bottom. */
export interface Poster {
  organization: string;
  title: string;
  /** What to do, in one language after another. */
  says: readonly string[];
  /** Where the code leads; stands below it for whoever has no camera. */
  address: string;
}

/** A poster on A4 with a code to scan: for a wall, a gate, a boat house. */
export const posterPdf = ({ organization, title, says, address }: Poster): Promise<Buffer> =>
  pdfOf({ size: 'A4', margin: 56, title }, (pdf) => {
    pdf.addPage();
    const width = pdf.page.width - 112;
    const centred = { width, align: 'center' as const };
    pdf.y = 76;
    pdf.fontSize(15).fillColor(inks.soft);
    write(pdf, 'name', organization, centred);
    pdf.moveDown(0.7).fontSize(34).fillColor(inks.ink);
    write(pdf, 'name', title, centred);
    pdf.moveDown(0.5).fontSize(18);
    for (const line of says) {
      write(pdf, 'text', line, centred);
      pdf.moveDown(0.35);
    }
    const size = Math.min(320, pdf.page.height - pdf.y - 130);
    const top = pdf.y + 14;
    drawCode(pdf, address, { x: (pdf.page.width - size) / 2, y: top, size });
    pdf.fontSize(13).fillColor(inks.soft);
    pdf.y = top + size + 18;
    write(pdf, 'text', address.replace(/^https?:\/\//u, ''), centred);
  });
