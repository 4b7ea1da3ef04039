import { certificateWords, sayHours } from '#core/words/certificate.ts';
import { fillIn } from '#core/words/filling.ts';
import type { Language } from '#core/words/language.ts';
import { inks, pdfOf, writeLine } from './pdf.ts';

/** What one certificate says. */
export interface Certificate {
  name: string;
  minutes: number;
  of: number;
  number: string;
}

/** Certificates of attendance, each on a sheet of A4 lying down. */
export const certificatesPdf = (
  certificates: readonly Certificate[],
  about: {
    organization: string;
    title: string;
    when: string;
    place: string;
    date: string;
    language: Language;
  },
): Promise<Buffer> => {
  const t = certificateWords[about.language];
  return pdfOf({ size: [842, 595], margin: 0, title: `${t.title}: ${about.title}` }, (pdf) => {
    for (const { name, minutes, of, number } of certificates) {
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
      const filled = { organization: about.organization, date: about.date, number };
      put('text', about.organization, 78, 13, inks.soft);
      put('name', t.title, 112, 32);
      put('text', t.says, 188, 13, inks.soft);
      put('name', name, 214, name.length > 40 ? 22 : 30);
      put('text', t.attended, 268, 13, inks.soft);
      put('name', about.title, 292, about.title.length > 50 ? 16 : 22);
      put('text', [about.when, about.place].filter(Boolean).join(', '), 330, 12);
      put('text', fillIn(t.minutes, { hours: sayHours(minutes), of: sayHours(of) }, about.language), 358, 12);
      pdf
        .moveTo(left + width / 2 - 120, 462)
        .lineTo(left + width / 2 + 120, 462)
        .lineWidth(0.8)
        .strokeColor(inks.ink)
        .stroke();
      put('text', fillIn(t.signed, filled, about.language), 468, 10, inks.soft);
      put(
        'text',
        `${fillIn(t.given, filled, about.language)} ${fillIn(t.number, filled, about.language)}`,
        510,
        10,
        inks.soft,
      );
    }
  });
};
