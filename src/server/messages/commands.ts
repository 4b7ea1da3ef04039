import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { update } from '../db/database.ts';
import { notFound, refused } from '../http/problem.ts';
import { readState } from './tray.ts';

/** Tries a message that failed once more, now. */
export async function retry(w: Work, id: string): Promise<void> {
  const state = await readState(w.tx, id);
  if (!state) throw notFound('This message');
  if (state !== 'failed') throw refused('not-failed', { state });
  await update(w.tx, 'messages', id, { nextTryAt: w.now });
  await record(w, 'message tried again', { messageId: id });
}
