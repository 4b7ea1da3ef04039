import type { Moved } from '#core/money/waysBack.ts';
import type { Work } from '../app/app.ts';
import { insert } from '../db/database.ts';

/** Has the processor asked for a refund of a charge, as soon as this is kept; null where money goes another way. */
export async function askForRefund(w: Work, { method, chargeId, amount }: Moved): Promise<string | null> {
  if (method !== 'card' || !chargeId) return null;
  const id = w.app.ids.id();
  await insert(w.tx, 'card_refunds', { id, chargeId, amount, state: 'asked', askedAt: w.now, askAt: w.now });
  w.afterwards(() => w.app.wake());
  return id;
}
