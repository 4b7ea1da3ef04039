import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { update } from '../db/database.ts';
import { conflict, notFound } from '../http/problem.ts';
import { readState } from './tray.ts';

/** Tries a message that failed once more, now. */
export async function retry(w: Work, id: string): Promise<void> {
  const state = await readState(w.tx, id);
  if (!state) throw notFound('This message');
  if (state !== 'failed') throw conflict('not-failed', `This message is ${state}, it did not fail.`);
  await update(w.tx, 'messages', id, { nextTryAt: w.now });
  await record(w, 'message tried again', { messageId: id });
}
