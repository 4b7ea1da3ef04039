import { type Currency, sayAmount } from '#core/money/amount.ts';
import { sayFigure } from '#core/outcomes/measure.ts';
import { type ReportFigures, type Section, sections, type Totals } from '#core/reports/report.ts';
import { sayLongDate, sayShortDate } from '#core/time/say.ts';
import { say, words } from '#core/words/spoken.ts';
import { readTexts } from '#core/words/texts.ts';
import { inks, pdfOf, write, writeLine } from './pdf.ts';

/** What is printed of a report. */
export interface PrintedReport {
  organization: string;
  title: string;
  about: string;
  made: string;
  words: Record<Section, string>;
  figures: ReportFigures;
  events: readonly {
    kind: string;
    title: string;
    on: string;
    registered: number;
    came: number;
    firstTimers: number;
  }[];
  beforeSaid: string;
  nowSaid: string;
}

const [left, bottom, line] = [56, 780, 17];

/** A report on A4: each section with its words and its figures, in the order they are read. */
export const reportPdf = (report: PrintedReport): Promise<Buffer> =>
  pdfOf({ size: 'A4', margin: left, title: report.title, made: report.made }, (pdf) => {
    pdf.addPage();
    const width = pdf.page.width - 2 * left;
    pdf.fontSize(12).fillColor(inks.soft);
    write(pdf, 'name', report.organization, { width });
    pdf.fontSize(24).fillColor(inks.ink);
    write(pdf, 'name', report.title, { width });
    pdf.fontSize(11).fillColor(inks.soft);
    write(pdf, 'text', report.about, { width });
    for (const section of sections) {
      if (pdf.y > bottom - 90) pdf.addPage();
      pdf.moveDown(1.1).fontSize(15).fillColor(inks.ink);
      write(pdf, 'name', say(words().reports[section]), { width });
      pdf.moveDown(0.3).fontSize(11);
      write(pdf, 'text', report.words[section], { width, lineGap: 3 });
      const rows = tableOf(section, report);
      if (rows) table(pdf, width, rows);
    }
    if (pdf.y > bottom - 40) pdf.addPage();
    pdf.moveDown(1.5).fontSize(9).fillColor(inks.soft);
    write(
      pdf,
      'text',
      say(words().reports.made, {
        on: sayLongDate(report.made.slice(0, 10)),
        organization: report.organization,
      }),
      { width },
    );
  });

/** A table: its heading, its rows, and how wide each column but the first is. */
interface Rows {
  head: readonly string[];
  rows: readonly (readonly string[])[];
}

function tableOf(section: Section, { figures, events, beforeSaid, nowSaid }: PrintedReport): Rows | null {
  const said = words().reports;
  const { now, before, currency } = figures;
  const head = ['', nowSaid, ...(before ? [beforeSaid] : [])];
  const row = (label: string, of: (t: Totals) => string) => [label, of(now), ...(before ? [of(before)] : [])];
  const count = (n: number) => Math.round(n).toLocaleString('en-CA');
  // Whole units: nobody adds cents up in a report.
  const money = (n: number) => sayAmount(Math.round(n / 100) * 100, currency as Currency);
  if (section === 'happened')
    return {
      head,
      rows: [
        ...(figures.event ? [] : [row(say(said.events), (t) => count(t.events))]),
        row(say(said.registered), (t) => count(t.registered)),
        row(say(said.cameRow), (t) => count(t.came)),
        row(say(said.peopleRow), (t) => count(t.people)),
        row(say(said.firstTimers), (t) => count(t.firstTimers)),
        row(say(said.hoursRow), (t) => count(t.hours)),
      ],
    };
  if (section === 'money')
    return {
      head,
      rows: [
        row(say(said.seats), (t) => money(t.money.seats)),
        row(say(said.extras), (t) => money(t.money.extras)),
        row(say(said.gifts), (t) => money(t.money.gifts)),
        row(say(said.costsRow), (t) => money(-t.money.costs)),
        row(say(said.result), (t) => money(t.money.seats + t.money.extras + t.money.gifts - t.money.costs)),
      ].filter((r, at, all) => at === all.length - 1 || r.slice(1).some((cell) => /[1-9]/u.test(cell))),
    };
  if (section === 'changed' && figures.outcomes.length)
    return {
      head,
      rows: figures.outcomes.map((o) => [
        readTexts(o.name, 'en'),
        sayFigure(o.total, o),
        ...(before ? [o.before === null ? '' : sayFigure(o.before, o)] : []),
      ]),
    };
  if (section === 'planned' && !figures.event && events.length)
    return {
      head: [say(said.events), say(said.registered), say(said.cameRow)],
      rows: eventRows(events).map(({ name, registered, came }) => [name, count(registered), count(came)]),
    };
  return null;
}

/** From how many events on those of one kind stand together. */
const mostAlone = 12;

/** The events of a report: each by itself, or many by their kind with how often each was held. */
function eventRows(events: PrintedReport['events']): { name: string; registered: number; came: number }[] {
  if (events.length <= mostAlone)
    return events.map(({ on, title, registered, came }) => ({
      name: `${sayShortDate(on)} ${on.slice(0, 4)}  ${title}`,
      registered,
      came,
    }));
  const kinds = new Map<string, { title: string; times: number; registered: number; came: number }>();
  for (const { kind, title, registered, came } of events) {
    const of = kinds.get(kind) ?? { title, times: 0, registered: 0, came: 0 };
    kinds.set(kind, {
      title,
      times: of.times + 1,
      registered: of.registered + registered,
      came: of.came + came,
    });
  }
  return [...kinds.values()]
    .sort((a, b) => b.came - a.came)
    .map(({ title, times, ...rest }) => ({
      name: times > 1 ? say(words().reports.times, { title, times }) : title,
      ...rest,
    }));
}

function table(pdf: PDFKit.PDFDocument, width: number, { head, rows }: Rows): void {
  const column = 120;
  const first = width - column * (head.length - 1);
  let y = pdf.y + 8;
  const put = (cells: readonly string[], ink: string) => {
    if (y > bottom) {
      pdf.addPage();
      y = 60;
    }
    pdf.fillColor(ink);
    for (const [at, cell] of cells.entries())
      writeLine(pdf, 'text', at === 0 ? short(cell) : cell, {
        x: left + (at === 0 ? 0 : first + (at - 1) * column),
        y,
        size: 10,
        width: at === 0 ? first : column,
        align: at === 0 ? 'left' : 'right',
      });
    pdf
      .moveTo(left, y + line - 3)
      .lineTo(left + width, y + line - 3)
      .lineWidth(0.5)
      .strokeColor(inks.line)
      .stroke();
    y += line;
  };
  put(head, inks.soft);
  for (const cells of rows) put(cells, inks.ink);
  pdf.x = left;
  pdf.y = y;
}

const short = (text: string): string => (text.length > 52 ? `${text.slice(0, 51)}…` : text);
