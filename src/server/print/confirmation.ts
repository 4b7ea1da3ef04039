import { inks, pdfOf, write, writeLine } from './pdf.ts';

/** What was booked, as it stands on paper. */
export interface Confirmation {
  organization: string;
  title: string;
  when: string;
  place: string;
  /** "Booking 1042, 3 July 2026, Fern Alder". */
  about: string;
  seats: readonly { name: string; offer: string }[];
  /** What it comes to, line by line; those that say what it comes to in all are apart. */
  lines: readonly { name: string; amount: string; strong?: boolean }[];
  afterwards: string;
  words: { heading: string; people: string; money: string };
}

/** The confirmation of a booking on A4. */
export const confirmationPdf = (c: Confirmation): Promise<Buffer> =>
  pdfOf({ size: 'A4', margin: 56, title: `${c.words.heading}: ${c.title}` }, (pdf) => {
    pdf.addPage();
    const [left, width] = [56, pdf.page.width - 112];
    pdf.fontSize(11).fillColor(inks.soft);
    write(pdf, 'text', `${c.organization} · ${c.words.heading}`, { width });
    pdf.moveDown(0.8).fontSize(24).fillColor(inks.ink);
    write(pdf, 'name', c.title, { width });
    pdf.moveDown(0.3).fontSize(12);
    if (c.when) write(pdf, 'text', c.when, { width });
    pdf.fillColor(inks.soft);
    if (c.place) write(pdf, 'text', c.place, { width });
    write(pdf, 'text', c.about, { width });
    const heading = (text: string) => {
      pdf.moveDown(1.2).fontSize(14).fillColor(inks.ink);
      write(pdf, 'name', text, { width });
      pdf.moveDown(0.3);
    };
    const row = (text: string, end: string, strong = false) => {
      if (pdf.y > pdf.page.height - 90) pdf.addPage();
      const { y } = pdf;
      pdf.fillColor(inks.ink);
      writeLine(pdf, 'text', text, { x: left, y, size: strong ? 12 : 11, width: width - 130 });
      pdf.fillColor(strong ? inks.ink : inks.soft);
      writeLine(pdf, 'text', end, {
        x: left + width - 200,
        y,
        size: strong ? 12 : 11,
        width: 200,
        align: 'right',
      });
      pdf.x = left;
      pdf.y = y + 18;
    };
    heading(c.words.people);
    for (const { name, offer } of c.seats) row(name, offer);
    if (c.lines.length) {
      heading(c.words.money);
      for (const { name, amount, strong } of c.lines) row(name, amount, strong);
    }
    if (c.afterwards) {
      pdf.moveDown(1.2).fontSize(11).fillColor(inks.ink);
      write(pdf, 'text', c.afterwards, { width });
    }
  });
