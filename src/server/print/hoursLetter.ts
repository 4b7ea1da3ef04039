import { earlier } from '#core/time/clock.ts';
import { sayLongDate, sayShortDate } from '#core/time/say.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { fillIn } from '#core/words/filling.ts';
import { hoursEn } from '#core/words/hours.en.ts';
import { hoursFr } from '#core/words/hours.fr.ts';
import type { Language } from '#core/words/language.ts';
import { inks, pdfOf, write, writeLine } from './pdf.ts';

/** What a letter of hours says. */
export interface HoursLetter {
  organization: string;
  zone: string;
  name: string;
  language: Language;
  from: string;
  until: string;
  now: string;
  served: readonly { on: string; event: string; role: string; hours: number }[];
}

const [left, line, bottom] = [56, 20, 770];
/** Where the columns begin, and how wide they are, in points. */
const columns = [
  { x: 0, width: 84 },
  { x: 90, width: 220 },
  { x: 316, width: 110 },
  { x: 430, width: 53 },
] as const;

/** A letter on A4 that says what somebody served: the sum, each shift, and a line to sign on. */
export const hoursLetter = (letter: HoursLetter): Promise<Buffer> => {
  const { organization, name, language, served } = letter;
  const t = (key: keyof typeof hoursEn, params: Record<string, string | number> = {}) =>
    fillIn((language === 'fr' ? hoursFr : hoursEn)[key], params, language);
  const date = (on: string) => sayLongDate(`${on}T00:00`, language);
  const today = dateOf(letter.now, letter.zone);
  // What is to come is not served yet.
  const until = earlier(letter.until, today);
  // As many decimals in all of them as one needs, so that they line up.
  const digits = served.some((s) => Math.round(s.hours * 100) % 50) ? 2 : 1;
  const said = (hours: number) =>
    hours.toLocaleString(language === 'fr' ? 'fr-CA' : 'en-CA', {
      minimumFractionDigits: digits,
      maximumFractionDigits: digits,
    });
  const sum = Math.round(served.reduce((all, s) => all + s.hours, 0) * 100) / 100;
  return pdfOf({ size: 'A4', margin: 56, title: t('title') }, (pdf) => {
    pdf.addPage();
    const width = pdf.page.width - 2 * left;
    pdf.fontSize(13).fillColor(inks.ink);
    write(pdf, 'name', organization, { width });
    pdf.moveDown(2).fontSize(20);
    write(pdf, 'name', t('title'), { width });
    pdf.moveDown(0.6).fontSize(11);
    write(
      pdf,
      'text',
      t(served.length ? 'says' : 'none', {
        name,
        organization,
        hours: sum,
        from: date(letter.from),
        until: date(until),
      }),
      { width, lineGap: 3 },
    );
    let y = pdf.y + 18;
    const put = (cells: readonly string[], ink: string) => {
      pdf.fillColor(ink);
      for (const [at, { x, width: wide }] of columns.entries())
        writeLine(pdf, 'text', cells[at]!, {
          x: left + x,
          y: y + 5,
          size: 10,
          width: wide,
          align: at === 3 ? 'right' : 'left',
        });
      y += line;
      pdf
        .moveTo(left, y)
        .lineTo(left + width, y)
        .lineWidth(0.5)
        .strokeColor(inks.line)
        .stroke();
    };
    const heads = () => put([t('day'), t('event'), t('role'), t('hours')], inks.soft);
    if (served.length) heads();
    for (const s of served) {
      if (y > bottom - 2 * line) {
        pdf.addPage();
        y = 56;
        heads();
      }
      put(
        [sayShortDate(s.on, false, language).concat(` ${s.on.slice(0, 4)}`), s.event, s.role, said(s.hours)],
        inks.ink,
      );
    }
    if (served.length) put([t('sum'), '', '', said(sum)], inks.ink);
    if (y > bottom - 110) {
      pdf.addPage();
      y = 56;
    }
    pdf.fontSize(10).fillColor(inks.soft);
    pdf.x = left;
    pdf.y = y + 16;
    write(pdf, 'text', t('counted', { organization, today: date(today) }), { width });
    y = pdf.y + 60;
    pdf
      .moveTo(left, y)
      .lineTo(left + 220, y)
      .lineWidth(0.8)
      .strokeColor(inks.ink)
      .stroke();
    pdf.fillColor(inks.soft);
    writeLine(pdf, 'text', t('signed', { organization }), { x: left, y: y + 6, size: 10, width });
  });
};
