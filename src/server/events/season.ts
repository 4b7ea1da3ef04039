import type { SeasonEvent } from '#contract/events.ts';
import { stagesOf } from '#core/access/stages.ts';
import { isOver } from '#core/events/end.ts';
import { missingOf } from '#core/season/missing.ts';
import type { Asker } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { readMarks, readSeason } from './store.ts';

/**
 * Events in a list. That something takes place, when and where, all staff may know; how many come is for those who see
 * a stage of it, and drafts of others are not shown.
 */
export async function seasonFor(
  { tx, staff, now }: Asker & { tx: Queries },
  where = 'true',
  params: readonly unknown[] = [],
): Promise<SeasonEvent[]> {
  // Kinds are few and events thousands: how a kind looks is read once.
  const marks = await readMarks(tx);
  const found: SeasonEvent[] = [];
  for (const row of await readSeason(tx, where, params)) {
    const see = [...stagesOf(staff, row, now).keys()];
    // Somebody without a role is there for their events alone.
    if (!see.length && !staff.roles.length) continue;
    const known = see.length > 0 || row.isTemplate;
    if (!known && ['draft', 'in clearance', 'shelved'].includes(row.state)) continue;
    found.push({
      id: row.id,
      title: row.title,
      unit: row.unit,
      state: row.state,
      isTemplate: row.isTemplate,
      firstOf: row.firstOf,
      seriesId: row.seriesId,
      startsLocal: row.startsLocal,
      endsLocal: row.endsLocal,
      startsAt: row.startsAt,
      endsAt: row.endsAt,
      zone: row.zone,
      venue: row.venue,
      capacity: row.capacity,
      category: row.category,
      mark: marks.get(row.kind) ?? null,
      leads: known ? row.leads : [],
      space: row.space,
      missing:
        see.includes('plan') && !row.isTemplate
          ? missingOf({
              state: row.state,
              over: isOver(row, now),
              dated: row.startsAt !== null,
              placed: row.placed,
              onOffer: row.onOffer,
              unfilled: row.unfilled,
            })
          : [],
      confirmed: known ? row.confirmed : 0,
      held: known ? row.held : 0,
      waitlisted: known ? row.waitlisted : 0,
      arrived: known ? row.arrived : 0,
      see,
    });
  }
  return found;
}
