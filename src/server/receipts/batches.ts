import { type App, inTransaction, systemActor, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, insert, update } from '../db/database.ts';
import { notFound, refused } from '../http/problem.ts';
import { nextPeople, readBatch, readParts } from './store.ts';
import { demandIssuer, dueOf, writeReceipt } from './writing.ts';

/** As many people are written at a time, all or none. */
const lot = 25;

/** Begins the receipts of a year: everybody who paid something that has none yet, each with their own. */
export async function beginBatch(w: Work, year: number, mail: boolean): Promise<{ id: string }> {
  await demandIssuer(w.tx);
  if (await first(w.tx, "select 1 from receipt_batches where year = $1 and state <> 'done'", [year]))
    throw refused('batch-running', { year: String(year) });
  const rows = await readParts(w.tx, { now: w.now, year });
  const people = [...new Set(rows.filter((r) => !r.receipted).map((r) => r.contactId))];
  if (!people.length) throw refused('nothing-to-receipt');
  const id = w.app.ids.id();
  await insert(w.tx, 'receipt_batches', {
    id,
    year,
    mail,
    state: 'running',
    begunAt: w.now,
    begunBy: w.actor.name,
  });
  await insert(
    w.tx,
    'receipt_batch_people',
    people.map((contactId) => ({ batchId: id, contactId, state: 'waits' })),
  );
  await record(w, 'receipts of a year', { batchId: id, year, how: 'began' });
  return { id };
}

/** Stops a batch, or goes on with it. */
export async function steerBatch(w: Work, id: string, to: 'stopped' | 'running'): Promise<void> {
  const batch = await readBatch(w.tx, id);
  if (!batch) throw notFound('Batch');
  if (batch.state === 'done') throw refused('batch-done');
  if (batch.state === to) return;
  await update(w.tx, 'receipt_batches', id, { state: to });
  await record(w, 'receipts of a year', {
    batchId: id,
    year: batch.year,
    how: to === 'stopped' ? 'stopped' : 'went on with',
  });
}

/** Writes the next receipts of a batch, in the name of whoever began it. The last lot ends it. */
export const writeLot = (app: App, batchId: string): Promise<void> =>
  inTransaction(app, systemActor, async (work) => {
    const { running, ids } = await nextPeople(work.tx, batchId, lot);
    if (!running) return;
    const batch = (await first<{ year: number; mail: boolean; begunBy: string }>(
      work.tx,
      'select year, mail, begun_by from receipt_batches where id = $1',
      [batchId],
    ))!;
    const w: Work = { ...work, actor: { ...systemActor, name: batch.begunBy } };
    if (!ids.length) {
      await update(w.tx, 'receipt_batches', batchId, { state: 'done', endedAt: w.now });
      await record(w, 'receipts of a year', { batchId, year: batch.year, how: 'finished' });
      return;
    }
    const due = await dueOf(w.tx, await readParts(w.tx, { now: w.now, year: batch.year, contactIds: ids }));
    for (const contactId of ids) {
      const of = due.find((d) => d.giver.id === contactId);
      const written = of?.assessed.lines.length
        ? await writeReceipt(w, of, { year: batch.year, batchId, mail: batch.mail })
        : null;
      await w.tx.query(
        'update receipt_batch_people set state = $3, receipt_id = $4, why = $5 where batch_id = $1 and contact_id = $2',
        [
          batchId,
          contactId,
          written ? 'written' : 'left',
          written?.id ?? null,
          JSON.stringify(of?.assessed.left.map(({ what, amount, why }) => ({ what, amount, why })) ?? []),
        ],
      );
    }
    w.afterwards(() => app.announcer.announce('money', {}));
  });
