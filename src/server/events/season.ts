import type { SeasonEvent } from '#contract/events.ts';
import { stagesOf } from '#core/access/stages.ts';
import { isOver } from '#core/events/end.ts';
import { missingOf } from '#core/season/missing.ts';
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
  for (const { unitId, partnerIds, endsAt, doorsAt, placed, onOffer, unfilled, ...row } of await readSeason(
    tx,
    where,
    params,
  )) {
    const reach = { id: row.id, unitId, partnerIds, endsAt, doorsAt, startsAt: row.startsAt };
    const see = [...stagesOf(staff, reach, now).keys()];
    // Somebody without a role is there for their events alone.
    if (!see.length && !staff.roles.length) continue;
    const missing = see.includes('plan')
      ? missingOf({
          state: row.state,
          over: isOver({ startsAt: row.startsAt, endsAt }, now),
          dated: row.startsAt !== null,
          placed,
          onOffer,
          unfilled,
        })
      : [];
    if (see.length || row.isTemplate)
      found.push({ ...row, see, missing: row.isTemplate ? [] : missing, endsAt });
    else if (!['draft', 'in clearance', 'shelved'].includes(row.state))
      found.push({
        ...row,
        see,
        endsAt,
        leads: [],
        missing,
        confirmed: 0,
        held: 0,
        waitlisted: 0,
        arrived: 0,
      });
  }
  return found;
}
