import { sayPassCode } from '#core/doors/passCode.ts';
import { drawCode, inks, pdfOf, write } from './pdf.ts';

export interface PassPage {
  organization: string;
  title: string;
  when: string;
  place: string;
  name: string;
  offer: string;
  code: string;
  order: number;
  /** What registrants are told, beneath the code; empty for nothing. */
  afterwards: string;
  words: { pass: string; order: string; show: string };
}

/** The passes of an order as a PDF, one page a seat, with the code to scan drawn as squares. */
export const passesPdf = (passes: readonly PassPage[]): Promise<Buffer> =>
  pdfOf({ size: 'A5', margin: 36, title: passes[0]?.title ?? 'Passes' }, (pdf) => {
    for (const pass of passes) drawPass(pdf, pass);
  });

function drawPass(pdf: PDFKit.PDFDocument, pass: PassPage): void {
  pdf.addPage();
  const width = pdf.page.width - 72;
  pdf.fontSize(11).fillColor(inks.soft);
  write(pdf, 'text', pass.organization, { width });
  pdf.moveDown(0.8).fontSize(24).fillColor(inks.ink);
  write(pdf, 'name', pass.title, { width });
  pdf.moveDown(0.3).fontSize(12);
  write(pdf, 'text', pass.when, { width });
  pdf.fillColor(inks.soft);
  if (pass.place) write(pdf, 'text', pass.place, { width });
  pdf
    .moveDown(1.2)
    .moveTo(36, pdf.y)
    .lineTo(36 + width, pdf.y)
    .lineWidth(0.7)
    .strokeColor(inks.line)
    .stroke();
  pdf.moveDown(1).fontSize(18).fillColor(inks.ink);
  write(pdf, 'name', pass.name, { width });
  pdf.fontSize(12).fillColor(inks.soft);
  write(pdf, 'text', `${pass.offer} · ${pass.words.order} ${pass.order}`, { width });
  const top = pdf.y + 22;
  const size = 190;
  drawCode(pdf, pass.code, { x: 36, y: top, size });
  pdf
    .font('text')
    .fontSize(13)
    .fillColor(inks.ink)
    .text(sayPassCode(pass.code), 36, top + size + 12, { characterSpacing: 1 });
  pdf
    .fontSize(10)
    .fillColor(inks.soft)
    .text(pass.words.show, 36, top + size + 32, { width });
  if (pass.afterwards) {
    pdf.moveDown(1).fontSize(11).fillColor(inks.ink);
    write(pdf, 'text', pass.afterwards, { width, height: pdf.page.height - pdf.y - 40, ellipsis: true });
  }
}
