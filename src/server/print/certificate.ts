import { certificateWords, sayHours } from '#core/words/certificate.ts';
import { fillIn } from '#core/words/filling.ts';
import type { Language } from '#core/words/language.ts';
import { inks, pdfOf, writeLine } from './pdf.ts';

/** What one certificate says, in the language of whoever gets it. */
export interface Certificate {
  name: string;
  minutes: number;
  of: number;
  number: string;
  title: string;
  when: string;
  place: string;
  date: string;
  language: Language;
}

/** Certificates of attendance, each on a sheet of A4 lying down. */
export const certificatesPdf = (
  organization: string,
  certificates: readonly Certificate[],
): Promise<Buffer> => {
  const [first] = certificates;
  const heading = first ? `${certificateWords[first.language].title}: ${first.title}` : '';
  return pdfOf({ size: [842, 595], margin: 0, title: heading }, (pdf) => {
    for (const { name, minutes, of, number, title, when, place, date, language } of certificates) {
      const t = certificateWords[language];
      pdf.addPage();
      const [left, width] = [90, 842 - 180];
      pdf
        .rect(28, 28, 842 - 56, 595 - 56)
        .lineWidth(1)
        .strokeColor(inks.line)
        .stroke();
      const put = (face: 'name' | 'text', text: string, y: number, size: number, ink: string = inks.ink) => {
        pdf.fillColor(ink);
        writeLine(pdf, face, text, { x: left, y, size, width, align: 'center' });
      };
      const say = (text: string) =>
        fillIn(text, { organization, date, number, hours: sayHours(minutes), of: sayHours(of) }, language);
      put('text', organization, 78, 13, inks.soft);
      put('name', t.title, 112, 32);
      put('text', t.says, 188, 13, inks.soft);
      put('name', name, 214, name.length > 40 ? 22 : 30);
      put('text', t.attended, 268, 13, inks.soft);
      put('name', title, 292, title.length > 50 ? 16 : 22);
      put('text', [when, place].filter(Boolean).join(', '), 330, 12);
      put('text', say(t.minutes), 358, 12);
      pdf
        .moveTo(left + width / 2 - 120, 462)
        .lineTo(left + width / 2 + 120, 462)
        .lineWidth(0.8)
        .strokeColor(inks.ink)
        .stroke();
      put('text', say(t.signed), 468, 10, inks.soft);
      put('text', `${say(t.given)} ${say(t.number)}`, 510, 10, inks.soft);
    }
  });
};
