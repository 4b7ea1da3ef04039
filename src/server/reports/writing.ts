import type { z } from 'zod';
import type { reportsContract } from '#contract/reports.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import { invalid, refused } from '../http/problem.ts';
import { deleteReport, eventThere, type ReportRow } from './store.ts';

type Begun = z.output<(typeof reportsContract)['POST /api/reports']['body']>;
type Written = z.output<(typeof reportsContract)['PUT /api/reports/:id']['body']>;

/** Begins a report: of one event, or of those between two days. */
export async function beginReport(w: Work, { title, eventId, from, until, unitId }: Begun): Promise<string> {
  if (eventId && !(await eventThere(w.tx, eventId)))
    throw invalid([wrongAt('eventId', 'thing-gone', { what: 'event' })]);
  const id = w.app.ids.id();
  await insert(w.tx, 'board_reports', {
    id,
    title,
    eventId,
    fromOn: eventId ? null : from,
    untilOn: eventId ? null : until,
    unitId: eventId ? null : unitId,
    madeBy: w.actor.name,
    madeAt: w.now,
    changedAt: w.now,
  });
  await record(w, 'report changed', { reportId: id, how: 'began a report', title });
  return id;
}

/** Keeps what somebody wrote, section by section; what is empty is said from the figures again. Refused where somebody else wrote since. */
export async function writeReport(
  w: Work,
  row: ReportRow,
  { title, words, version }: Written,
): Promise<void> {
  if (row.version !== version) throw refused('report-changed');
  await update(w.tx, 'board_reports', row.id, {
    title,
    words: Object.fromEntries(Object.entries(words).filter(([, text]) => text)),
    changedAt: w.now,
    version: row.version + 1,
  });
  await record(w, 'report changed', { reportId: row.id, how: 'wrote a report', title });
}

export async function throwAway(w: Work, row: ReportRow): Promise<void> {
  await deleteReport(w.tx, row.id);
  await record(w, 'report changed', { reportId: row.id, how: 'threw a report away', title: row.title });
}
