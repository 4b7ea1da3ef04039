import type { reportsContract } from '#contract/reports.ts';
import { sections } from '#core/reports/report.ts';
import type { Queries } from '../db/database.ts';
import { File, type Handlers } from '../http/handle.ts';
import { notFound } from '../http/problem.ts';
import { demandBooks } from '../money/access.ts';
import { reportPdf } from '../print/report.ts';
import { theOrganization } from '../staff/store.ts';
import { assemble, sayAbout, wordsOf } from './assembling.ts';
import { type ReportRow, readReport, readReports } from './store.ts';
import { beginReport, throwAway, writeReport } from './writing.ts';

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
    return { id: await beginReport(c, c.body) };
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
    await writeReport(c, row, c.body);
    return { done: true };
  },

  'DELETE /api/reports/:id': async (c) => {
    await demandBooks(c);
    const row = await reportOf(c.tx, c.params.id, true);
    await throwAway(c, row);
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
