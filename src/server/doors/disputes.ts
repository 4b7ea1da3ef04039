import type { AttendanceShown, disputeKinds } from '#contract/attendance.ts';
import { isLocked } from '#core/doors/lock.ts';
import { endOf, isOver } from '#core/events/end.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { notFound, refused } from '../http/problem.ts';
import { readSeat, type SeatRow } from '../registration/store.ts';
import { lastDispute, theDispute } from './attendanceStore.ts';
import { attendanceOf, correctAttendance } from './attending.ts';
import { attendanceLocks } from './commands.ts';

type Says = (typeof disputeKinds)[number];

/** What somebody sees of what is kept of them at an event; null before it takes place, and where they had no seat. */
export async function attendanceShownTo(
  { tx, now }: Pick<Work, 'tx' | 'now'>,
  seat: SeatRow,
): Promise<AttendanceShown | null> {
  const event = await readEvent(tx, seat.eventId);
  const begins = event.doorsAt ?? event.startsAt;
  if (seat.state !== 'confirmed' || !begins || begins > now) return null;
  const [of] = (await attendanceOf(tx, event, now, seat.id)).rows;
  if (!of) return null;
  const dispute = await lastDispute(tx, seat.id);
  const locks = await attendanceLocks(tx, event);
  const may =
    isOver(event, now) && !isLocked(locks, event.attendanceOpenUntil, now) && dispute?.outcome !== null;
  return {
    state: of.state,
    arrivedAt: of.arrivedAt,
    leftAt: of.leftAt,
    until: may ? (locks! > now ? locks : event.attendanceOpenUntil) : null,
    dispute: dispute && {
      says: dispute.says,
      words: dispute.words,
      outcome: dispute.outcome,
      answer: dispute.answer,
    },
    certificate: of.earned && endOf(event)! <= now,
  };
}

/** Somebody says that what is kept of a seat is wrong: once, until it is answered. */
export async function dispute(
  w: Work,
  seat: SeatRow,
  by: 'buyer' | 'guest',
  { says, words, language }: { says: Says; words: string; language: 'en' | 'fr' },
): Promise<void> {
  const event = await readEvent(w.tx, seat.eventId, true);
  if (seat.state !== 'confirmed') throw notFound('This seat');
  if (!isOver(event, w.now)) throw refused('dispute-too-soon');
  if (isLocked(await attendanceLocks(w.tx, event), event.attendanceOpenUntil, w.now))
    throw refused('dispute-over');
  const last = await lastDispute(w.tx, seat.id);
  if (last && last.outcome === null) throw refused('dispute-waits');
  const id = w.app.ids.id();
  await insert(w.tx, 'attendance_disputes', {
    id,
    registrationId: seat.id,
    eventId: event.id,
    says,
    words,
    by,
    language,
    at: w.now,
  });
  await record(w, 'attendance disputed', { eventId: event.id, registrationId: seat.id, disputeId: id });
}

/** The event that somebody said something about; throws 404 where there is no such thing. */
export async function eventOfDispute(w: Work, id: string): Promise<string> {
  const of = await theDispute(w.tx, id);
  if (!of) throw notFound('This');
  return of.eventId;
}

/** Answers it, corrected as is said then or left as it is, and tells whoever said it. */
export async function answerDispute(
  w: Work,
  event: EventRow,
  id: string,
  { stays, answer }: { stays: Parameters<typeof correctAttendance>[3]['stays'] | null; answer: string },
): Promise<void> {
  const of = (await theDispute(w.tx, id))!;
  if (of.outcome !== null) throw refused('dispute-answered');
  const outcome = stays ? 'corrected' : 'kept';
  if (stays)
    await correctAttendance(w, event, await readSeat(w.tx, of.registrationId), {
      sessionId: null,
      stays,
      why: ['They said so', of.words].filter(Boolean).join(': ').slice(0, 300),
    });
  await update(w.tx, 'attendance_disputes', id, {
    outcome,
    answer,
    answeredAt: w.now,
    answeredBy: w.actor.name,
  });
  const { registrationId, by, language } = of;
  await record(w, 'dispute answered', {
    eventId: event.id,
    registrationId,
    disputeId: id,
    by,
    outcome,
    answer,
    language,
  });
}
