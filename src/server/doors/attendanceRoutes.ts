import type { attendanceContract } from '#contract/attendance.ts';
import { actsAs } from '#core/access/stages.ts';
import { fullName } from '#core/contacts/names.ts';
import { nightsBefore } from '#core/doors/days.ts';
import { isLocked } from '#core/doors/lock.ts';
import { marksOfEvent, marksOfSession, presenceOf } from '#core/doors/marks.ts';
import { isOver } from '#core/events/end.ts';
import { isProblemCode, sayProblem } from '#core/words/problems.ts';
import { followLink, type SignedIn, type Work } from '../app/app.ts';
import { eventFor } from '../events/access.ts';
import { fileName } from '../events/fileName.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { File, type Handlers } from '../http/handle.ts';
import { notFound, refused } from '../http/problem.ts';
import { orderByLink } from '../registration/links.ts';
import { readOrder, readSeat, readSeats, type SeatRow } from '../registration/store.ts';
import { theOrganization } from '../staff/store.ts';
import { disputesOf, listsTaken, marksShown } from './attendanceStore.ts';
import { attendanceOf, correctAttendance } from './attending.ts';
import { certificatesOf } from './certificates.ts';
import { closeDoors, openAgain } from './closing.ts';
import { attendanceLocks } from './commands.ts';
import { answerDispute, attendanceShownTo, dispute, eventOfDispute } from './disputes.ts';
import { codeOfOrder, isHandedOver } from './handover.ts';
import { eventOfList, listShown, readList, takeList, undoList } from './listsIn.ts';
import { liveOf } from './live.ts';
import { nameTagOf } from './nameTag.ts';

/** True of those who answer for what is kept of who came, beyond the door team. */
const leads = (staff: SignedIn, event: EventRow, now: string): boolean =>
  actsAs(staff, 'unit lead', event, now) || actsAs(staff, 'crew lead', event, now);

/** Whether whoever booked is told of a seat: a guest who filled it in themselves has a link of their own. */
const isTheBuyers = (seat: SeatRow): boolean => seat.guestFilledAt === null;

/** A seat of the booking that a link leads to. */
async function seatOfLink({ tx }: Pick<Work, 'tx'>, token: string, id: string): Promise<SeatRow> {
  const seat = (await readSeats(tx, await orderByLink(tx, token))).find((s) => s.id === id);
  if (!seat || !isTheBuyers(seat)) throw notFound('This seat');
  return seat;
}

/** The seat that a guest's link leads to. */
async function seatOfGuest({ tx }: Pick<Work, 'tx'>, token: string): Promise<SeatRow> {
  const id = await followLink(tx, 'seat', token);
  if (!id) throw notFound('This seat');
  return readSeat(tx, id);
}

export const attendanceHandlers: Handlers<typeof attendanceContract> = {
  'GET /api/events/:id/attendance': async (c) => {
    const { tx, now } = c;
    const event = await eventFor(c, c.params.id, 'doors', 'see');
    const { days, sessions, rows } = await attendanceOf(tx, event, now);
    const locks = await attendanceLocks(tx, event);
    return {
      days: days.map(({ day, from, until }) => ({ day, from, until })),
      sessions: sessions.map(({ id, title, from, until, came, kept }) => ({
        id,
        title,
        from,
        until,
        came,
        kept,
      })),
      locksAt: locks,
      locked: isLocked(locks, event.attendanceOpenUntil, now),
      openUntil:
        event.attendanceOpenUntil && event.attendanceOpenUntil > now ? event.attendanceOpenUntil : null,
      closedAt: event.absencesAt,
      certificate: event.doors.certificate,
      rows: rows.map(({ language: _, ...row }) => row),
      imports: await listsTaken(tx, event.id),
      // What people write is for those who answer it.
      disputes: leads(c.staff, event, now) ? await disputesOf(tx, event.id) : [],
    };
  },

  'GET /api/registrations/:id/attendance': async (c) => {
    const { tx, now } = c;
    const seat = await readSeat(tx, c.params.id);
    const event = await eventFor(c, seat.eventId, 'doors', 'see');
    const { days, sessions, rows } = await attendanceOf(tx, event, now, seat.id);
    const marks = await marksShown(tx, seat.id);
    const nights = nightsBefore(days, now);
    const gone = new Set(marks.flatMap((m) => (m.state === 'expected' ? m.undoes : [])));
    return {
      eventId: event.id,
      name: fullName({ given: seat.givenName, family: seat.familyName }),
      stays: presenceOf(marksOfEvent(marks), nights).stays,
      counted: rows[0]?.counted ?? { minutes: 0, of: 0 },
      sessions: sessions
        .map(({ id, title }) => ({ id, title, stays: presenceOf(marksOfSession(marks, id), nights).stays }))
        .filter((s) => s.stays.length > 0),
      marks: marks.map(({ undoes: _, sessionId: __, ...m }) => ({ ...m, takenBack: gone.has(m.id) })),
    };
  },

  'PUT /api/registrations/:id/attendance': async (c) => {
    const seat = await readSeat(c.tx, c.params.id);
    const event = await eventFor(c, seat.eventId, 'doors', 'change', true);
    // The door team puts right what it marked as long as the event goes on.
    if (isOver(event, c.now) && !leads(c.staff, event, c.now)) throw refused('not-your-event', {}, 403);
    await correctAttendance(c, event, seat, c.body);
    return { done: true };
  },

  'POST /api/events/:id/attendance/check': async (c) =>
    listShown(await readList(c.tx, await eventFor(c, c.params.id, 'doors', 'change'), c.body), (problem) =>
      isProblemCode(problem) ? sayProblem(problem) : problem,
    ),

  'POST /api/events/:id/attendance/lists': async (c) =>
    takeList(c, await eventFor(c, c.params.id, 'doors', 'change', true), c.body),

  'POST /api/attendance-lists/:id/undo': async (c) => {
    const eventId = await eventOfList(c.tx, c.params.id);
    await undoList(c, await eventFor(c, eventId, 'doors', 'change', true), c.params.id);
    return { done: true };
  },

  'GET /api/events/:id/doors/live': async (c) => liveOf(c, await eventFor(c, c.params.id, 'doors', 'see')),

  'POST /api/events/:id/doors/close': async (c) => ({
    missed: await closeDoors(c, await eventFor(c, c.params.id, 'doors', 'change', true), c.body.closed),
  }),

  'POST /api/events/:id/attendance/open': async (c) => ({
    until: await openAgain(c, await eventFor(c, c.params.id, 'doors', 'change', true), c.body.why),
  }),

  'POST /api/attendance-disputes/:id': async (c) => {
    const eventId = await eventOfDispute(c, c.params.id);
    await answerDispute(c, await eventFor(c, eventId, 'doors', 'change', true), c.params.id, c.body);
    return { done: true };
  },

  'GET /api/events/:id/certificates.pdf': async (c) => {
    const event = await eventFor(c, c.params.id, 'doors', 'see');
    return new File(fileName('certificates', event, 'pdf'), await certificatesOf(c, event), true);
  },

  'GET /api/registrations/:id/certificate.pdf': async (c) => {
    const seat = await readSeat(c.tx, c.params.id);
    const event = await eventFor(c, seat.eventId, 'doors', 'see');
    return new File(fileName('certificate', event, 'pdf'), await certificatesOf(c, event, seat.id), true);
  },

  'POST /api/registrations/:id/name-tag.pdf': async (c) => {
    const seat = await readSeat(c.tx, c.params.id);
    const event = await eventFor(c, seat.eventId, 'doors', 'change');
    return new File('name-tag.pdf', await nameTagOf(c, event, seat), true);
  },

  'GET /api/public/orders/:token/attendance': async (c) => {
    const seats = await readSeats(c.tx, await orderByLink(c.tx, c.params.token));
    const event = await readEvent(c.tx, seats[0]!.eventId);
    const { ageOfMajority } = await theOrganization(c.tx);
    const shown = [];
    for (const seat of seats.filter(isTheBuyers)) {
      const of = await attendanceShownTo(c, seat);
      if (of)
        shown.push({
          ...of,
          id: seat.id,
          name: fullName({ given: seat.givenName, family: seat.familyName }),
        });
    }
    const handed = seats.some((s) => s.state === 'confirmed' && isHandedOver(event, s, c.now, ageOfMajority));
    return {
      handover: handed && !isOver(event, c.now) ? codeOfOrder(c.app, seats[0]!.orderId) : null,
      seats: shown,
    };
  },

  'POST /api/public/orders/:token/seats/:seat/attendance': async (c) => {
    const seat = await seatOfLink(c, c.params.token, c.params.seat);
    const { language } = await readOrder(c.tx, seat.orderId);
    await dispute(c, seat, 'buyer', { ...c.body, language });
    return { done: true };
  },

  'GET /api/public/orders/:token/seats/:seat/certificate.pdf': async (c) => {
    const seat = await seatOfLink(c, c.params.token, c.params.seat);
    const event = await readEvent(c.tx, seat.eventId);
    return new File(fileName('certificate', event, 'pdf'), await certificatesOf(c, event, seat.id), true);
  },

  'GET /api/public/guests/:token/attendance': async (c) => ({
    seat: await attendanceShownTo(c, await seatOfGuest(c, c.params.token)),
  }),

  'POST /api/public/guests/:token/attendance': async (c) => {
    const seat = await seatOfGuest(c, c.params.token);
    const { language } = await readOrder(c.tx, seat.orderId);
    await dispute(c, seat, 'guest', { ...c.body, language });
    return { done: true };
  },

  'GET /api/public/guests/:token/certificate.pdf': async (c) => {
    const seat = await seatOfGuest(c, c.params.token);
    const event = await readEvent(c.tx, seat.eventId);
    return new File(fileName('certificate', event, 'pdf'), await certificatesOf(c, event, seat.id), true);
  },
};
