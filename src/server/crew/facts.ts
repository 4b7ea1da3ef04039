import { daysBetween, instantOf, shiftWall } from '#core/time/wallTime.ts';
import { type Queries, update } from '../db/database.ts';
import type { Reactions } from '../http/app.ts';

/** Shifts keep their distance in days and their wall times when the event moves. */
async function moveShifts(
  tx: Queries,
  eventId: string,
  from: string,
  to: string,
  zone: string,
): Promise<void> {
  const days = daysBetween(from.slice(0, 10), to.slice(0, 10));
  if (!days) return;
  const shifts = await tx.query<{ id: string; startsLocal: string; endsLocal: string }>(
    'select id, starts_local, ends_local from shifts where event_id = $1',
    [eventId],
  );
  for (const s of shifts) {
    const startsLocal = shiftWall(s.startsLocal, { days });
    const endsLocal = shiftWall(s.endsLocal, { days });
    await update(tx, 'shifts', s.id, {
      startsLocal,
      endsLocal,
      startsAt: instantOf(startsLocal, zone),
      endsAt: instantOf(endsLocal, zone),
    });
  }
}

export const crewReactions: Reactions = {
  async 'plan saved'({ tx }, { eventId, before, after }) {
    if (before.startsLocal && after.startsLocal && before.startsLocal !== after.startsLocal)
      await moveShifts(tx, eventId, before.startsLocal, after.startsLocal, after.zone);
  },
};
