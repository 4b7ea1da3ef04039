import { nightsBefore } from '#core/doors/days.ts';
import { isLocked, openAgainHours } from '#core/doors/lock.ts';
import { marksOfEvent, presenceOf } from '#core/doors/marks.ts';
import { isOver } from '#core/events/end.ts';
import { lives } from '#core/events/states.ts';
import { plusMinutes } from '#core/time/clock.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { update } from '../db/database.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import { assertUnlocked, attendanceLocks } from './commands.ts';
import { doorDaysOf } from './days.ts';
import { forgetAbsences, insideSeats, keepAbsences, keepAttendance, marksOf } from './store.ts';

/** After an event, or when its doors are closed by hand: whoever was expected and did not come is missed. Answers how many. */
export async function findAbsences(w: Work, eventId: string): Promise<number> {
  await readEvent(w.tx, eventId, true);
  const missed = await keepAbsences(w.tx, eventId);
  await update(w.tx, 'events', eventId, { absencesAt: w.now });
  await record(w, 'absences found', { eventId });
  return missed;
}

/** Closes the doors by hand, or opens them again: then whoever was missed is expected again. */
export async function closeDoors(w: Work, event: EventRow, closed: boolean): Promise<number> {
  if (!lives(event.state)) throw refused('event-is', { state: event.state });
  await assertUnlocked(w, event);
  // By then it is worked out anyhow, and nobody is missed who is marked later.
  if (!closed && isOver(event, w.now)) throw refused('doors-over');
  const opens = event.doorsAt ?? event.startsAt;
  if (closed && (!opens || opens > w.now)) throw refused('doors-not-begun');
  if (closed === (event.absencesAt !== null)) throw refused(closed ? 'doors-are-closed' : 'doors-are-open');
  await record(w, 'doors closed', { eventId: event.id, closed });
  if (closed) return findAbsences(w, event.id);
  await forgetAbsences(w.tx, event.id);
  await update(w.tx, 'events', event.id, { absencesAt: null });
  await record(w, 'absences found', { eventId: event.id });
  return 0;
}

/** A night between two days of an event passes: whoever was not marked as leaving went home. */
export async function passNight(w: Work, eventId: string, night: string): Promise<void> {
  const event = await readEvent(w.tx, eventId, true);
  const nights = nightsBefore(await doorDaysOf(w.tx, event), w.now);
  for (const seat of await insideSeats(w.tx, eventId))
    await keepAttendance(w.tx, seat, presenceOf(marksOfEvent(await marksOf(w.tx, seat.id)), nights));
  await update(w.tx, 'events', eventId, { nightAt: night });
}

/** Opens once more what is kept of who came, for some days. */
export async function openAgain(w: Work, event: EventRow, why: string): Promise<string> {
  if (!isLocked(await attendanceLocks(w.tx, event), event.attendanceOpenUntil, w.now))
    throw refused('attendance-not-locked');
  const until = plusMinutes(w.now, openAgainHours * 60);
  await update(w.tx, 'events', event.id, { attendanceOpenUntil: until });
  await record(w, 'attendance opened again', { eventId: event.id, why });
  return until;
}
