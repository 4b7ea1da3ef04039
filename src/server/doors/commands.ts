import type { AttendanceState } from '#core/doors/attendance.ts';
import { nightsBefore } from '#core/doors/days.ts';
import { isLocked, locksAt } from '#core/doors/lock.ts';
import {
  type DoorMark,
  marksOfEvent,
  marksOfSession,
  type Presence,
  presenceOf,
  toldAt,
} from '#core/doors/marks.ts';
import { mayComeIn, shortestReason } from '#core/doors/verdict.ts';
import { endOf } from '#core/events/end.ts';
import { lives } from '#core/events/states.ts';
import { sayLongDate } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { toldFor } from '../app/told.ts';
import type { Queries } from '../db/database.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import { readSeat } from '../registration/store.ts';
import { theOrganization } from '../staff/store.ts';
import { knowArrived } from '../waivers/signatureStore.ts';
import { doorDaysOf, doorSessions } from './days.ts';
import { handedOver, isHandedOver } from './handover.ts';
import { doorRows } from './list.ts';
import { attendanceNow, keepAttendance, keepMark, marksOf } from './store.ts';

interface Mark {
  /** The event at whose door they stand. */
  eventId: string;
  state: 'expected' | 'arrived' | 'left';
  despite: string;
  /** Its own id, by which it is known again. */
  markId?: string | undefined;
  /** What it takes back; nothing said is the stay they are in. */
  undoes?: string[] | undefined;
  /** When it was and when it was sent, by the clock of the device. */
  at?: string | undefined;
  sentAt?: string | undefined;
  device?: string | undefined;
  /** The session at whose door they stand. */
  sessionId?: string | null | undefined;
  /** Of a child that leaves: the code of the booking, or who takes them. */
  handedTo?: string | undefined;
}

/** When something was that is told now. A device that does not say when it sent it is taken at its word. */
const whenTold = (app: Work['app'], now: string, { at, sentAt }: Pick<Mark, 'at' | 'sentAt'>): string =>
  at && sentAt ? toldAt(now, { at, sentAt }) : toldFor(app, now, at);

/** When what is kept of who came at an event stands as it is; null without a date. */
export async function attendanceLocks(tx: Queries, event: EventRow): Promise<string | null> {
  return locksAt(endOf(event), (await theOrganization(tx)).attendanceDays);
}

/** Throws where what is kept of who came cannot be changed any more. */
export async function assertUnlocked({ tx, now }: Pick<Work, 'tx' | 'now'>, event: EventRow): Promise<void> {
  const locks = await attendanceLocks(tx, event);
  if (isLocked(locks, event.attendanceOpenUntil, now))
    throw refused('attendance-locked', { since: sayLongDate(wallOf(locks!, event.zone)) });
}

/** Keeps where somebody is by all marks about them, and says what changed by it. */
export async function keepPresence(
  w: Work,
  event: EventRow,
  seat: { id: string; eventId: string; contactId: string | null },
  marks: readonly DoorMark[],
  was: Presence | null,
  despite = '',
): Promise<Presence> {
  const is = presenceOf(marksOfEvent(marks), nightsBefore(await doorDaysOf(w.tx, event), w.now));
  await keepAttendance(w.tx, seat, is);
  if (is.state !== was?.state || is.arrivedAt !== was.arrivedAt)
    await record(w, 'attendance marked', {
      eventId: seat.eventId,
      registrationId: seat.id,
      state: is.state,
      despite,
    });
  return is;
}

/**
 * Marks an arrival, a leaving, or takes marks back, at the doors of the event or of a session. Several devices mark in whatever order, some
 * told hours later: where somebody is follows from all marks together. Answers where they are at that door, and whether anything changed.
 */
export async function mark(
  w: Work,
  registrationId: string,
  told: Mark,
): Promise<{ state: AttendanceState; changed: boolean }> {
  const { tx, app, now } = w;
  const { eventId, state, despite, markId, sessionId = null } = told;
  const seat = await readSeat(tx, registrationId);
  const event = await readEvent(tx, seat.eventId);
  if (seat.eventId !== eventId && despite.length < shortestReason)
    throw refused('another-event', { event: event.publicTitle });
  if (seat.state !== 'confirmed') throw refused('not-confirmed', { state: seat.state });
  if (!lives(event.state)) throw refused('event-is', { state: event.state });
  if (sessionId && !(await doorSessions(tx, event)).some((s) => s.id === sessionId))
    throw refused('session-elsewhere');
  await assertUnlocked(w, event);
  const kept = await attendanceNow(tx, registrationId);
  const marks = await marksOf(tx, registrationId);
  const nights = nightsBefore(await doorDaysOf(tx, event), now);
  const ofEvent = presenceOf(marksOfEvent(marks), nights);
  const was = sessionId ? presenceOf(marksOfSession(marks, sessionId), nights) : ofEvent;
  const before = sessionId ? was.state : kept;
  if (markId && marks.some((m) => m.id === markId)) return { state: before, changed: false };
  // What a device kept counts in the end, whatever came first; said at once it is a slip.
  if (!markId && before === state) return { state, changed: false };
  if (!markId && state === 'left' && before !== 'arrived') throw refused('not-in');
  const when = whenTold(app, now, told);
  if (state === 'arrived' && was.state !== 'arrived') {
    // Judged by the moment it happened: what is told after midnight was yesterday's door.
    const [row] = await doorRows(w, event, { now: when, registrationId, sessionId });
    if (row && row.attendance !== 'arrived' && was.state === 'expected' && !mayComeIn(row, despite))
      throw refused('stop', { verdict: row.headline, details: row.details.join(' ') });
  }
  const { ageOfMajority } = await theOrganization(tx);
  const handedTo =
    state === 'left' && !sessionId && isHandedOver(event, seat, now, ageOfMajority)
      ? handedOver(app, seat, told.handedTo ?? '')
      : '';
  const undoes = state === 'expected' ? (told.undoes ?? was.undo) : [];
  const made = { id: markId ?? app.ids.id(), state, at: when, undoes, sessionId };
  const known = await keepMark(tx, {
    ...made,
    registrationId,
    staffId: w.actor.staffId,
    actor: w.actor.name,
    device: told.device ?? '',
    toldAt: now,
    handedTo,
  });
  // Its id is that of a mark about somebody else: nothing is kept, so nothing may follow from it.
  if (known) throw refused('mark-of-another');
  const after = [...marks, made];
  const is = await keepPresence(w, event, seat, after, ofEvent, despite);
  if (state === 'arrived') await knowArrived(tx, registrationId, now);
  const here = sessionId ? presenceOf(marksOfSession(after, sessionId), nights) : is;
  // At a session nothing of the event need have changed; who looks on sees it all the same.
  if (
    sessionId &&
    here.state !== was.state &&
    is.state === ofEvent.state &&
    is.arrivedAt === ofEvent.arrivedAt
  )
    await record(w, 'attendance marked', { eventId: seat.eventId, registrationId, state: is.state, despite });
  return { state: here.state, changed: here.state !== was.state };
}
