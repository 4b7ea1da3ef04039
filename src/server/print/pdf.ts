import { createRequire } from 'node:module';
import QRCode from 'qrcode';

const require = createRequire(import.meta.url);
/** Each face comes in two files: Western letters, and those of the rest of Latin script (Ł, ő, ș …). */
const fonts = {
  name: 'literata/files/literata-latin-500-normal.woff',
  'name ext': 'literata/files/literata-latin-ext-500-normal.woff',
  text: 'instrument-sans/files/instrument-sans-latin-400-normal.woff',
  'text ext': 'instrument-sans/files/instrument-sans-latin-ext-400-normal.woff',
} as const;
export type Face = 'name' | 'text';

/** The colours of what is printed. */
export const inks = { ink: '#23262D', soft: '#62666F', line: '#E3DCCF' } as const;

interface Paper {
  title: string;
  /** When it was made, for what is the same file each time; now where nothing is said. */
  made?: string;
  size: string | [number, number];
  margin: number;
}

/** Begins a PDF with our faces; pages are added by whoever draws. What draws is loaded with the first: a start need not wait for it. */
export async function beginPdf({ title, made, ...page }: Paper): Promise<PDFKit.PDFDocument> {
  const { default: PDFDocument } = await import('pdfkit');
  const pdf = new PDFDocument({
    ...page,
    autoFirstPage: false,
    info: { Title: title, ...(made && { CreationDate: new Date(made) }) },
  });
  for (const [face, file] of Object.entries(fonts))
    pdf.registerFont(face, require.resolve(`@fontsource/${file}`));
  return pdf;
}

/** Makes a PDF that fits into memory, at once. */
export async function pdfOf(paper: Paper, draw: (pdf: PDFKit.PDFDocument) => void): Promise<Buffer> {
  const pdf = await beginPdf(paper);
  return new Promise((resolve, reject) => {
    const chunks: Buffer[] = [];
    pdf.on('data', (c: Buffer) => chunks.push(c));
    pdf.on('end', () => resolve(Buffer.concat(chunks)));
    pdf.on('error', reject);
    draw(pdf);
    pdf.end();
  });
}

/** A text as stretches of letters, each with the file that has them. */
function stretches(face: Face, text: string): { font: string; part: string }[] {
  const parts = text.match(/[\u0100-\u024f\u1e00-\u1eff]+|[^\u0100-\u024f\u1e00-\u1eff]+/gu) ?? [''];
  return parts.map((part) => ({
    part,
    font: /^[\u0100-\u024f\u1e00-\u1eff]/u.test(part) ? `${face} ext` : face,
  }));
}

/** Writes a text, each stretch of letters in the file that has them. */
export function write(
  pdf: PDFKit.PDFDocument,
  face: Face,
  text: string,
  options: PDFKit.Mixins.TextOptions,
): void {
  const all = stretches(face, text);
  all.forEach(({ part, font }, at) => {
    pdf.font(font).text(part, { ...options, continued: at < all.length - 1 });
  });
}

/** How wide a text is, in points. */
export function widthOf(pdf: PDFKit.PDFDocument, face: Face, text: string, size: number): number {
  pdf.fontSize(size);
  return stretches(face, text).reduce((sum, { part, font }) => sum + pdf.font(font).widthOfString(part), 0);
}

/** Writes one line at a place, from its left or around its middle, without wrapping. */
export function writeLine(
  pdf: PDFKit.PDFDocument,
  face: Face,
  text: string,
  {
    x,
    y,
    size,
    width,
    align = 'left',
  }: { x: number; y: number; size: number; width: number; align?: 'left' | 'center' | 'right' },
): void {
  const slack = width - widthOf(pdf, face, text, size);
  let at = x + (align === 'center' ? slack / 2 : align === 'right' ? slack : 0);
  pdf.fontSize(size);
  for (const { part, font } of stretches(face, text)) {
    pdf.font(font).text(part, at, y, { lineBreak: false });
    at += pdf.widthOfString(part);
  }
}

/** Draws a QR code (ISO/IEC 18004) as squares. */
export function drawCode(
  pdf: PDFKit.PDFDocument,
  code: string,
  { x, y, size }: { x: number; y: number; size: number },
): void {
  const { modules } = QRCode.create(code, { errorCorrectionLevel: 'M' });
  const cell = size / modules.size;
  pdf.fillColor(inks.ink);
  for (let row = 0; row < modules.size; row += 1)
    for (let column = 0; column < modules.size; column += 1)
      // A hair of overlap, so that printers leave no white lines between squares.
      if (modules.get(row, column))
        pdf.rect(x + column * cell, y + row * cell, cell + 0.2, cell + 0.2).fill();
}
