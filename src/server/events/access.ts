import type { Depth, EventReach } from '#core/access/stages.ts';
import { leads, stagesOf } from '#core/access/stages.ts';
import type { Stage } from '#core/events/states.ts';
import type { Asker } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { refused } from '../http/problem.ts';
import { type EventRow, readEvent } from './store.ts';

/** Refuses whoever may not see, or change, a stage of an event. */
export function demand(asker: Asker, event: EventReach, stage: Stage, depth: Depth): void {
  const has = stagesOf(asker.staff, event, asker.now);
  if (has.get(stage) === 'change' || (depth === 'see' && has.has(stage))) return;
  throw has.size ? refused('not-your-stage', {}, 403) : refused('not-your-event', {}, 403);
}

/** Refuses whoever may not decide what becomes of an event, and who works on it. */
export function demandLead(asker: Asker, event: EventReach): void {
  if (!leads(asker.staff, event, asker.now)) throw refused('not-your-stage', {}, 403);
}

/** An event of which somebody may see, or change, a stage; 404 where there is none, 403 where it is not theirs. */
export async function eventFor(
  c: Asker & { tx: Queries },
  id: string,
  stage: Stage,
  depth: Depth,
  lock = false,
): Promise<EventRow> {
  const event = await readEvent(c.tx, id, lock);
  demand(c, event, stage, depth);
  return event;
}
