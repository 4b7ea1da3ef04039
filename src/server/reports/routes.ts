import type { reportsContract } from '#contract/reports.ts';
import { sections } from '#core/reports/report.ts';
import { wrongAt } from '#core/words/problems.ts';
import { record } from '../app/record.ts';
import { insert, type Queries, update } from '../db/database.ts';
import { File, type Handlers } from '../http/handle.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { demandBooks } from '../money/access.ts';
import { reportPdf } from '../print/report.ts';
import { theOrganization } from '../staff/store.ts';
import { assemble, sayAbout, wordsOf } from './assembling.ts';
import { deleteReport, eventThere, type ReportRow, readReport, readReports } from './store.ts';

const summaryOf = (row: ReportRow) => ({
  id: row.id,
  title: row.title,
  about: sayAbout(row),
  madeBy: row.madeBy,
  changedAt: row.changedAt,
});

async function reportOf(tx: Queries, id: string, lock = false): Promise<ReportRow> {
  const row = await readReport(tx, id, lock);
  if (!row) throw notFound('This report');
  return row;
}

export const reportsHandlers: Handlers<typeof reportsContract> = {
  'GET /api/reports': async (c) => {
    await demandBooks(c);
    return (await readReports(c.tx)).map(summaryOf);
  },

  'POST /api/reports': async (c) => {
    await demandBooks(c);
    const { title, eventId, from, until, unitId } = c.body;
    if (eventId && !(await eventThere(c.tx, eventId)))
      throw invalid([wrongAt('eventId', 'thing-gone', { what: 'event' })]);
    const id = c.app.ids.id();
    await insert(c.tx, 'board_reports', {
      id,
      title,
      eventId,
      fromOn: eventId ? null : from,
      untilOn: eventId ? null : until,
      unitId: eventId ? null : unitId,
      madeBy: c.staff.name,
      madeAt: c.now,
      changedAt: c.now,
    });
    await record(c, 'report changed', { reportId: id, how: 'began a report', title });
    return { id };
  },

  'GET /api/reports/:id': async (c) => {
    await demandBooks(c);
    const row = await reportOf(c.tx, c.params.id);
    const { figures, events, beforeSaid, nowSaid } = await assemble(c, row);
    const { from, until, currency, now, before, outcomes, initiatives } = figures;
    return {
      ...summaryOf(row),
      version: row.version,
      words: wordsOf(row, figures),
      written: sections.filter((s) => row.words[s] !== undefined),
      ...{ from, until, currency, now, before, beforeSaid, nowSaid },
      outcomes: [...outcomes],
      initiatives: initiatives as never,
      events,
    };
  },

  'PUT /api/reports/:id': async (c) => {
    await demandBooks(c);
    const row = await reportOf(c.tx, c.params.id, true);
    if (row.version !== c.body.version) throw refused('report-changed');
    const words = Object.fromEntries(Object.entries(c.body.words).filter(([, text]) => text));
    await update(c.tx, 'board_reports', row.id, {
      title: c.body.title,
      words,
      changedAt: c.now,
      version: row.version + 1,
    });
    await record(c, 'report changed', { reportId: row.id, how: 'wrote a report', title: c.body.title });
    return { done: true };
  },

  'DELETE /api/reports/:id': async (c) => {
    await demandBooks(c);
    const row = await reportOf(c.tx, c.params.id, true);
    await deleteReport(c.tx, row.id);
    await record(c, 'report changed', { reportId: row.id, how: 'threw a report away', title: row.title });
    return { done: true };
  },

  'GET /api/reports/:id/report.pdf': async (c) => {
    await demandBooks(c);
    const row = await reportOf(c.tx, c.params.id);
    const { figures, events, beforeSaid, nowSaid } = await assemble(c, row);
    const { name } = await theOrganization(c.tx);
    return new File(
      'report.pdf',
      await reportPdf({
        organization: name,
        title: row.title,
        about: sayAbout(row),
        made: c.now,
        words: wordsOf(row, figures),
        figures,
        events,
        beforeSaid,
        nowSaid,
      }),
      true,
    );
  },
};
