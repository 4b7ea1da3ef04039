import { createRequire } from 'node:module';
import PDFDocument from 'pdfkit';
import QRCode from 'qrcode';
import { sayPassCode } from '#core/doors/passCode.ts';

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

const require = createRequire(import.meta.url);
/** Each face comes in two files: Western letters, and those of the rest of Latin script (Ł, ő, ș …). */
const fonts = {
  name: 'literata/files/literata-latin-500-normal.woff',
  'name ext': 'literata/files/literata-latin-ext-500-normal.woff',
  text: 'instrument-sans/files/instrument-sans-latin-400-normal.woff',
  'text ext': 'instrument-sans/files/instrument-sans-latin-ext-400-normal.woff',
} as const;

/** Writes a text, each stretch of letters in the file that has them. */
function write(
  pdf: PDFKit.PDFDocument,
  face: 'name' | 'text',
  text: string,
  options: PDFKit.Mixins.TextOptions,
): void {
  const parts = text.match(/[\u0100-\u024f\u1e00-\u1eff]+|[^\u0100-\u024f\u1e00-\u1eff]+/gu) ?? [''];
  parts.forEach((part, at) => {
    const ext = /^[\u0100-\u024f\u1e00-\u1eff]/u.test(part);
    pdf.font(ext ? `${face} ext` : face).text(part, { ...options, continued: at < parts.length - 1 });
  });
}

/** The passes of an order as a PDF, one page a seat, with the code to scan drawn as squares. */
export function passesPdf(passes: readonly PassPage[]): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    const pdf = new PDFDocument({
      size: 'A5',
      margin: 36,
      autoFirstPage: false,
      info: { Title: passes[0]?.title ?? 'Passes' },
    });
    const chunks: Buffer[] = [];
    pdf.on('data', (c: Buffer) => chunks.push(c));
    pdf.on('end', () => resolve(Buffer.concat(chunks)));
    pdf.on('error', reject);
    for (const [face, file] of Object.entries(fonts))
      pdf.registerFont(face, require.resolve(`@fontsource/${file}`));
    for (const pass of passes) drawPass(pdf, pass);
    pdf.end();
  });
}

function drawPass(pdf: PDFKit.PDFDocument, pass: PassPage): void {
  pdf.addPage();
  const width = pdf.page.width - 72;
  pdf.fontSize(11).fillColor('#62666F');
  write(pdf, 'text', pass.organization, { width });
  pdf.moveDown(0.8).fontSize(24).fillColor('#23262D');
  write(pdf, 'name', pass.title, { width });
  pdf.moveDown(0.3).fontSize(12);
  write(pdf, 'text', pass.when, { width });
  pdf.fillColor('#62666F');
  if (pass.place) write(pdf, 'text', pass.place, { width });
  pdf
    .moveDown(1.2)
    .moveTo(36, pdf.y)
    .lineTo(36 + width, pdf.y)
    .lineWidth(0.7)
    .strokeColor('#E3DCCF')
    .stroke();
  pdf.moveDown(1).fontSize(18).fillColor('#23262D');
  write(pdf, 'name', pass.name, { width });
  pdf.fontSize(12).fillColor('#62666F');
  write(pdf, 'text', `${pass.offer} · ${pass.words.order} ${pass.order}`, { width });
  const top = pdf.y + 22;
  const size = 190;
  const modules = QRCode.create(pass.code, { errorCorrectionLevel: 'M' }).modules;
  const cell = size / modules.size;
  pdf.fillColor('#23262D');
  for (let y = 0; y < modules.size; y += 1)
    for (let x = 0; x < modules.size; x += 1)
      // A hair of overlap, so that printers leave no white lines between squares.
      if (modules.get(y, x)) pdf.rect(36 + x * cell, top + y * cell, cell + 0.2, cell + 0.2).fill();
  pdf
    .font('text')
    .fontSize(13)
    .fillColor('#23262D')
    .text(sayPassCode(pass.code), 36, top + size + 12, { characterSpacing: 1 });
  pdf
    .fontSize(10)
    .fillColor('#62666F')
    .text(pass.words.show, 36, top + size + 32, { width });
  if (pass.afterwards) {
    pdf.moveDown(1).fontSize(11).fillColor('#23262D');
    write(pdf, 'text', pass.afterwards, { width, height: pdf.page.height - pdf.y - 40, ellipsis: true });
  }
}
