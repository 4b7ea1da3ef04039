import type { Section } from '#core/reports/report.ts';
import { type App, inTransaction, systemActor } from '#server/app/app.ts';
import { first, insert } from '#server/db/database.ts';
import { makeIds } from '#server/db/ids.ts';
import { makeRandom } from './random.ts';

/** Two reports to the board: of the last whole year, and of the last Supper; some of it written, the rest as the figures say it. */
export async function writeReports(app: App): Promise<void> {
  const ids = makeIds(app.clock, makeRandom(53).bytes);
  const supper = (await first<{ id: string }>(
    app.db,
    "select id from events where public_title = 'Fen Supper' and state = 'wrapped' order by starts_at desc limit 1",
  ))!;
  const reports: {
    title: string;
    eventId: string | null;
    words: Partial<Record<Section, string>>;
    at: string;
  }[] = [
    {
      title: 'The year 2025',
      eventId: null,
      words: {
        asked:
          'Open Water Day draws more first-timers than anything else we do, and few of them come back within a year. We ask the board for a second boat evening in August, a week after it, and for 600 dollars for two more canoes.',
      },
      at: '2026-01-14T14:00:00.000Z',
    },
    {
      title: 'Fen Supper 2025: report to the board',
      eventId: supper.id,
      words: {
        planned: 'A supper for 136 at the Town Hall, to pay for itself and to bring the hide closer.',
      },
      at: '2025-11-03T15:30:00.000Z',
    },
  ];
  await inTransaction(app, systemActor, async (w) => {
    for (const { title, eventId, words, at } of reports)
      await insert(w.tx, 'board_reports', {
        id: ids.id(),
        title,
        eventId,
        fromOn: eventId ? null : '2025-01-01',
        untilOn: eventId ? null : '2025-12-31',
        words,
        madeBy: 'Odalys Ferrant',
        madeAt: at,
        changedAt: at,
      });
  });
}
