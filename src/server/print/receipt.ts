import { setImmediate as turn } from 'node:timers/promises';
import { sayExactAmount } from '#core/money/amount.ts';
import { codeOf, offices, type ReceiptContent } from '#core/receipts/year.ts';
import { sayLongDate } from '#core/time/say.ts';
import { fillIn } from '#core/words/filling.ts';
import type { Language } from '#core/words/language.ts';
import { receiptEn } from '#core/words/receipt.en.ts';
import { receiptFr } from '#core/words/receipt.fr.ts';
import { beginPdf, drawCode, inks, pdfOf, write, writeLine } from './pdf.ts';

/** A receipt as it is printed: what it says, its hash, whether it still stands, and where it is verified. */
export interface PrintedReceipt {
  content: ReceiptContent;
  sha256: string;
  state: 'issued' | 'void';
  replacedBy: string | null;
  language: Language;
  verifyAt: string;
}

/** The receipts in one PDF on A4, each on a page of its own. */
export const receiptsPdf = (title: string, receipts: readonly PrintedReceipt[]): Promise<Buffer> =>
  pdfOf({ size: 'A4', margin: 56, title }, (pdf) => {
    for (const receipt of receipts) drawReceipt(pdf, receipt);
  });

/**
 * Writes receipts into something as they are read, lot by lot: however many there are, only a few are held, and between two of them
 * others have their turn.
 */
export async function streamReceipts(
  title: string,
  lots: AsyncIterable<readonly PrintedReceipt[]>,
  into: NodeJS.WritableStream,
): Promise<void> {
  const pdf = await beginPdf({ size: 'A4', margin: 56, title });
  pdf.pipe(into);
  for await (const lot of lots)
    for (const receipt of lot) {
      drawReceipt(pdf, receipt);
      await turn();
    }
  pdf.end();
}

/** Draws one receipt on a new page. */
function drawReceipt(pdf: PDFKit.PDFDocument, receipt: PrintedReceipt): void {
  const { content: c, language, sha256 } = receipt;
  const t = (key: keyof typeof receiptEn, params: Record<string, string> = {}) =>
    fillIn((language === 'fr' ? receiptFr : receiptEn)[key], params, language);
  const money = (amount: number) => sayExactAmount(amount, c.currency, language);
  const date = (on: string) => sayLongDate(`${on}T00:00`, language);
  const official = c.country === 'CA';
  const inKind = c.lines.some((l) => l.thing);
  pdf.addPage();
  const [left, width] = [56, pdf.page.width - 112];
  const text = (words: string, size = 10.5, ink: string = inks.ink) => {
    pdf.fontSize(size).fillColor(ink);
    pdf.x = left;
    write(pdf, 'text', words, { width });
  };
  pdf.fontSize(20).fillColor(inks.ink);
  write(pdf, 'name', t(official ? 'official' : c.advantage > 0 ? 'statement' : 'acknowledgment'), { width });
  pdf.moveDown(0.2);
  text(t('number', { number: c.number }), 12);
  if (c.replaces) text(t('replaces', { number: c.replaces }), 11);
  if (receipt.state === 'void') {
    text(receipt.replacedBy ? t('voidReplaced', { number: receipt.replacedBy }) : t('void'), 12, '#8A2A2B');
    pdf
      .save()
      .rotate(-35, { origin: [pdf.page.width / 2, 430] })
      .fillColor('#8A2A2B')
      .opacity(0.16);
    writeLine(pdf, 'name', t('voidMark'), {
      x: 0,
      y: 370,
      size: 130,
      width: pdf.page.width,
      align: 'center',
    });
    pdf.restore().opacity(1);
  }
  pdf.y = 150;
  text(t('issuer'), 9.5, inks.soft);
  text([c.issuer.legalName, ...c.issuer.address.split('\n')].filter(Boolean).join('\n'));
  text(t('registration', { number: c.issuer.registration }));
  pdf.moveDown(0.8);
  text(t('giver'), 9.5, inks.soft);
  text([c.giver.name, ...c.giver.address.split('\n')].filter(Boolean).join('\n'));
  pdf.moveDown(0.8);
  const columns = [
    { key: 'on', x: left, width: 92 },
    { key: 'what', x: left + 96, width: 166 },
    { key: 'amount', x: left + 262, width: 70 },
    { key: 'advantage', x: left + 336, width: 70 },
    { key: 'eligible', x: left + 410, width: width - 410 },
  ] as const;
  const row = (cells: readonly string[], { size = 10, ink = inks.ink as string } = {}) => {
    if (pdf.y > pdf.page.height - 210) {
      pdf.addPage();
      pdf.y = 70;
    }
    const { y } = pdf;
    pdf.fillColor(ink);
    columns.forEach(({ x, width: w, key }, at) => {
      writeLine(pdf, 'text', fitted(cells[at] ?? '', w), {
        x,
        y,
        size,
        width: w,
        align: key === 'on' || key === 'what' ? 'left' : 'right',
      });
    });
    pdf.x = left;
    pdf.y = y + size + 7;
  };
  const fitted = (words: string, w: number) => {
    const most = Math.max(4, Math.floor(w / 4.9));
    return words.length > most ? `${words.slice(0, most - 1)}…` : words;
  };
  row([t('on'), t('what'), t('amount'), t('advantage'), t(official ? 'eligible' : 'deductible')], {
    size: 9.5,
    ink: inks.soft,
  });
  for (const l of c.lines)
    row([
      l.on,
      l.thing || l.what,
      money(l.amount),
      l.advantage ? money(l.advantage) : '–',
      money(l.eligible),
    ]);
  pdf
    .moveTo(left, pdf.y - 2)
    .lineTo(left + width, pdf.y - 2)
    .lineWidth(0.6)
    .strokeColor(inks.ink)
    .stroke();
  pdf.y += 4;
  row([t('inAll'), '', money(c.amount), c.advantage ? money(c.advantage) : '–', money(c.eligible)], {
    size: 11,
  });
  pdf.moveDown(0.4);
  for (const l of c.lines.filter((line) => line.advantage > 0))
    text(t('received', { what: l.received || l.what, amount: money(l.advantage) }), 10, inks.soft);
  if (!official && c.advantage === 0) text(t('nothingReceived'), 10.5);
  if (!official && c.advantage > 0) text(t('onlyOver'), 10.5);
  for (const l of c.lines.filter((line) => line.thing))
    text(
      t(l.appraisedBy ? 'appraised' : 'inKind', {
        thing: l.thing,
        date: date(l.on),
        amount: money(l.amount),
        by: l.appraisedBy,
      }),
      10,
      inks.soft,
    );
  if (inKind) pdf.moveDown(0.2);
  if (c.abroad)
    text(t('abroad', { country: t(c.country === 'CA' ? 'canada' : 'unitedStates') }), 10, inks.soft);
  pdf.moveDown(0.8);
  text(t('issued', { date: date(c.issuedOn), place: c.issuer.place }));
  pdf.moveDown(1.6);
  const { y } = pdf;
  pdf
    .moveTo(left, y)
    .lineTo(left + 210, y)
    .lineWidth(0.6)
    .strokeColor(inks.soft)
    .stroke();
  pdf.y = y + 4;
  text([c.issuer.signer, c.issuer.signerRole].filter(Boolean).join(', '), 10);
  text(t('signature'), 9, inks.soft);
  const foot = pdf.page.height - 132;
  drawCode(pdf, receipt.verifyAt, { x: pdf.page.width - 56 - 64, y: foot, size: 64 });
  pdf.y = foot;
  pdf.x = left;
  pdf.fontSize(9).fillColor(inks.soft);
  const office = offices[c.country];
  write(pdf, 'text', `${office[language]}, ${office.web[language]}`, { width: width - 90 });
  write(pdf, 'text', t('verify', { code: codeOf(sha256), address: receipt.verifyAt.split('?')[0]! }), {
    width: width - 90,
  });
}
