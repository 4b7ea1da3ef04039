import type { SeasonEvent } from '#contract/events.ts';
import { stagesOf } from '#core/access/stages.ts';
import type { Asker } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { readSeason } from './store.ts';

/**
 * Events in a list. That something takes place, when and where, all staff may know; how many come is for those who see
 * a stage of it, and drafts of others are not shown.
 */
export async function seasonFor(
  { tx, staff, now }: Asker & { tx: Queries },
  where = 'true',
  params: readonly unknown[] = [],
): Promise<SeasonEvent[]> {
  const found: SeasonEvent[] = [];
  for (const { unitId, endsAt, doorsAt, ...row } of await readSeason(tx, where, params)) {
    const see = [...stagesOf(staff, { unitId, endsAt, doorsAt, startsAt: row.startsAt }, now).keys()];
    if (see.length || row.isTemplate) found.push({ ...row, see });
    else if (!['draft', 'in clearance', 'shelved'].includes(row.state))
      found.push({ ...row, see, confirmed: 0, held: 0, waitlisted: 0, arrived: 0 });
  }
  return found;
}
