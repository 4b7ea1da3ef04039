import { plusMinutes } from '#core/time/clock.ts';
import type { App } from '../app/app.ts';
import { vacuumTables } from '../db/upkeep.ts';

/** Minutes that the answer to a create is kept, so that a repeated one gets the same answer. */
const repeatableMinutes = 24 * 60;

/** Forgets what has served its time, answers kept for repeated creates and sessions that ran out, and sees to tables. */
export async function tidyUp(app: App): Promise<void> {
  await app.db.query('delete from idempotency where at < $1', [
    plusMinutes(app.clock.now(), -repeatableMinutes),
  ]);
  await app.db.query('update orders set held_from = null where held_from is not null and placed_at < $1', [
    plusMinutes(app.clock.now(), -24 * 60),
  ]);
  await app.db.query('delete from sessions where expires_at < $1', [app.sessionClock.now()]);
  await vacuumTables(app.db);
}
