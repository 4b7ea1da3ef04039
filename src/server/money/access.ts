import { actsAs, type EventReach, seesStageEverywhere, stagesOf } from '#core/access/stages.ts';
import type { Asker, SignedIn } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { refused } from '../http/problem.ts';

/** The whole books are for those who see the money of every event; a treasurer of a unit asks event by event. */
export async function demandBooks(c: Asker & { tx: Queries }, eventId?: string | undefined): Promise<void> {
  if (seesStageEverywhere(c.staff, 'registration')) return;
  if (!eventId) throw refused('one-of-your-events', {}, 403);
  await eventFor(c, eventId, 'registration', 'see');
}

/** Whether somebody takes money in cash for seats of an event: the door, whoever changes its registrations, the treasurer. */
export const mayTakeCash = (staff: SignedIn, event: EventReach, now: string): boolean =>
  actsAs(staff, 'treasurer', event, now) ||
  actsAs(staff, 'door', event, now) ||
  stagesOf(staff, event, now).get('registration') === 'change';
