import { seesStageEverywhere } from '#core/access/stages.ts';
import type { Asker } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { refused } from '../http/problem.ts';

/** The whole books are for those who see the money of every event; a treasurer of a unit asks event by event. */
export async function demandBooks(c: Asker & { tx: Queries }, eventId?: string | undefined): Promise<void> {
  if (seesStageEverywhere(c.staff, 'registration')) return;
  if (!eventId) throw refused('one-of-your-events', {}, 403);
  await eventFor(c, eventId, 'registration', 'see');
}
