import type { Settling } from '#contract/changes.ts';
import type { EventReach } from '#core/access/stages.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Asker } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { demand, demandLead } from '../events/access.ts';
import { readChoices, readEvent } from '../events/store.ts';
import { invalid } from '../http/problem.ts';

/**
 * What is settled with a change reaches other stages than the plan: seats, the crew, and what is written to people are for who may
 * change those. The fund a gift would go to is one of the organization's.
 */
export async function demandSettling(
  c: Asker & { tx: Queries },
  event: EventReach,
  settle: Settling | undefined,
): Promise<void> {
  if (!settle) return;
  if (settle.toWaitlist.length) demand(c, event, 'registration', 'change');
  if (settle.takeOff.length) demand(c, event, 'crew', 'change');
  if (settle.offTeam.length || settle.leadEmail) demandLead(c, event);
  if (settle.toEventId) demand(c, await readEvent(c.tx, settle.toEventId), 'registration', 'change');
  if (settle.letters.length) demand(c, event, 'messages', 'change');
  const { fundId } = settle;
  if (fundId && !(await readChoices(c.tx)).funds.some((f) => f.id === fundId))
    throw invalid([wrongAt('settle.fundId', 'thing-gone', { what: 'fund' })]);
}
