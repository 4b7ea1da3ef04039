import { sayLongDate } from '#core/time/say.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { fillIn } from '#core/words/filling.ts';
import type { Language } from '#core/words/language.ts';
import { signedCopyWords } from '#core/words/signedCopy.ts';
import { inks, pdfOf, write } from './pdf.ts';

/** One signature as its copy shows it. */
export interface CopiedSignature {
  participant: string;
  /** The exact text as signed. */
  text: string;
  sha256: string;
  /** Its place among all signatures, and the hash it has there. */
  number: number;
  chainHash: string;
  revokedAt: string | null;
  /** As the path of an SVG in a box of 600 by 200. */
  drawn: string | null;
  answers: readonly string[];
}

export interface SignedCopy {
  organization: string;
  zone: string;
  language: Language;
  title: string;
  /** When it was signed: the same copy is the same file each time. */
  made: string;
  verifyAt: string;
  signatures: readonly CopiedSignature[];
}

/** A copy of what was signed in one go: each participant on a page of their own, with what proves it. */
export const signedCopy = (copy: SignedCopy): Promise<Buffer> => {
  const t = (key: keyof (typeof signedCopyWords)['en'], params: Record<string, string | number> = {}) =>
    fillIn(signedCopyWords[copy.language][key], params, copy.language);
  return pdfOf({ size: 'A4', margin: 56, title: copy.title, made: copy.made }, (pdf) => {
    for (const s of copy.signatures) {
      pdf.addPage();
      const width = pdf.page.width - 112;
      pdf.fontSize(11).fillColor(inks.soft);
      write(pdf, 'name', copy.organization, { width });
      pdf.moveDown(1).fontSize(18).fillColor(inks.ink);
      write(pdf, 'name', copy.title, { width });
      if (s.revokedAt) {
        pdf.moveDown(0.4).fontSize(11).fillColor('#9E3030');
        write(pdf, 'text', t('revoked', { on: sayLongDate(dateOf(s.revokedAt, copy.zone), copy.language) }), {
          width,
        });
      }
      pdf.moveDown(0.8).fontSize(10).fillColor(inks.ink);
      for (const line of s.text.split('\n')) write(pdf, 'text', line || ' ', { width, lineGap: 2 });
      if (s.drawn) {
        const top = pdf.y + 6;
        pdf
          .save()
          .translate(56, top)
          .scale(0.3)
          .path(s.drawn)
          .lineWidth(4)
          .strokeColor(inks.ink)
          .stroke()
          .restore();
        pdf.y = top + 66;
      }
      if (s.answers.length) {
        pdf.moveDown(0.6).fontSize(11).fillColor(inks.ink);
        write(pdf, 'name', t('answers'), { width });
        pdf.fontSize(10);
        for (const answer of s.answers) write(pdf, 'text', answer, { width, lineGap: 2 });
      }
      pdf.moveDown(1).fontSize(8.5).fillColor(inks.soft);
      write(pdf, 'text', t('proof', { number: s.number }), { width });
      write(pdf, 'text', `SHA-256 ${s.sha256}`, { width });
      write(pdf, 'text', t('chain', { hash: s.chainHash }), { width });
      write(pdf, 'text', t('verify', { address: copy.verifyAt }), { width });
    }
  });
};
