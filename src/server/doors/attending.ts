import type { AttendanceState } from '#core/doors/attendance.ts';
import { againstSessions, correcting, problemsWithStays, sameStays } from '#core/doors/correcting.ts';
import {
  type CertificateRule,
  type Counted,
  type CountedSession,
  earns,
  minutesCounted,
} from '#core/doors/counting.ts';
import { type DoorDay, nightsBefore } from '#core/doors/days.ts';
import { type DoorMark, marksOfEvent, marksOfSession, presenceOf, type Stay } from '#core/doors/marks.ts';
import { sayTime } from '#core/time/say.ts';
import { instantOf, meaningOf, wallOf } from '#core/time/wallTime.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import type { Queries } from '../db/database.ts';
import type { EventRow } from '../events/store.ts';
import { invalid, refused } from '../http/problem.ts';
import type { SeatRow } from '../registration/store.ts';
import { knowArrived } from '../waivers/signatureStore.ts';
import { cameToSessions, seatsAttending } from './attendanceStore.ts';
import { assertUnlocked, keepPresence } from './commands.ts';
import { type DoorSession, doorDaysOf, doorSessions } from './days.ts';
import { attendedAt, keepMark, marksOf, signedUpAt } from './store.ts';

/** What somebody’s attendance came to. */
export interface Attendance {
  registrationId: string;
  given: string;
  family: string;
  offer: string;
  language: 'en' | 'fr';
  state: AttendanceState;
  arrivedAt: string | null;
  leftAt: string | null;
  counted: Counted;
  /** The sessions they were marked at. */
  sessions: string[];
  earned: boolean;
  corrected: boolean;
}

/** What is counted where an event has no certificates: its own minutes. */
const usually: CertificateRule = { share: 100, of: 'event' };

/** How everybody attended an event, or one of them. */
export async function attendanceOf(
  tx: Queries,
  event: EventRow,
  now: string,
  registrationId: string | null = null,
): Promise<{
  days: DoorDay[];
  sessions: (DoorSession & { came: number; kept: boolean })[];
  rows: Attendance[];
}> {
  const days = await doorDaysOf(tx, event);
  const came = await cameToSessions(tx, event.id);
  const sessions = (await doorSessions(tx, event)).map((s) => ({
    ...s,
    came: came.get(s.id) ?? 0,
    kept: came.has(s.id),
  }));
  const counted: CountedSession[] = sessions;
  const attended = await attendedAt(tx, event.id, nightsBefore(days, now));
  const signedUp = await signedUpAt(tx, event.id, registrationId);
  const rule = event.doors.certificate ?? usually;
  const rows = (await seatsAttending(tx, event.id, registrationId)).map((seat): Attendance => {
    const of = attended.get(seat.registrationId);
    const marks: readonly DoorMark[] = of?.marks ?? [];
    const minutes = minutesCounted(rule.of, {
      marks,
      days,
      sessions: counted,
      chosen: new Set(signedUp.get(seat.registrationId) ?? []),
      now,
    });
    return {
      ...seat,
      state: seat.state ?? 'expected',
      counted: minutes,
      sessions: sessions
        .filter((s) => s.kept && presenceOf(marksOfSession(marks, s.id)).state !== 'expected')
        .map((s) => s.id),
      earned: event.doors.certificate !== null && earns(minutes, event.doors.certificate),
      corrected: of?.corrected ?? false,
    };
  });
  return { days, sessions, rows };
}

/** A time somebody was there, by the clock on the wall. */
interface WallStay {
  fromLocal: string;
  untilLocal: string | null;
}

/** Times by the clock on the wall as moments; says which of them a clock change removed. */
function readStays(stays: readonly WallStay[], zone: string): { stays: Stay[]; problems: Wrong[] } {
  const problems: Wrong[] = [];
  const at = (wall: string, path: string): string => {
    const meaning = meaningOf(wall, zone);
    if (meaning.kind === 'gap') problems.push(wrongAt(path, 'time-not-read'));
    return instantOf(wall, zone);
  };
  const read = stays.map(({ fromLocal, untilLocal }, n) => ({
    from: at(fromLocal, `stays.${n}.from`),
    until: untilLocal && at(untilLocal, `stays.${n}.until`),
  }));
  return { stays: read, problems };
}

/** The fields on the screen are called by the clock on the wall. */
const local = (w: Wrong): Wrong => ({ ...w, path: w.path.replace(/\.(from|until)$/u, '.$1Local') });

/** Says when somebody was there. What was marked before stays on record, taken back by whoever corrects it, with their reason. */
export async function correctAttendance(
  w: Work,
  event: EventRow,
  seat: SeatRow,
  { sessionId, stays: said, why }: { sessionId: string | null; stays: readonly WallStay[]; why: string },
): Promise<void> {
  const { tx, app, now } = w;
  if (seat.state !== 'confirmed') throw refused('not-confirmed', { state: seat.state });
  await assertUnlocked(w, event);
  const session = sessionId ? (await doorSessions(tx, event)).find((s) => s.id === sessionId) : null;
  if (sessionId && !session) throw refused('session-elsewhere');
  const days = await doorDaysOf(tx, event);
  const { stays, problems } = readStays(said, event.zone);
  const wrong = [...problems, ...problemsWithStays(stays, days, now)];
  if (wrong.length) throw invalid(wrong.map(local));
  const marks = await marksOf(tx, seat.id);
  const here = sessionId ? marksOfSession(marks, sessionId) : marksOfEvent(marks);
  if (sameStays(here, stays)) throw refused('nothing-different');
  const [against] = sessionId || !stays.length ? [] : againstSessions(marks, stays);
  if (against) {
    const title = (await doorSessions(tx, event)).find((s) => s.id === against.sessionId)?.title ?? '';
    throw refused('session-says-otherwise', {
      session: title,
      time: sayTime(wallOf(against.at, event.zone)),
    });
  }
  const was = presenceOf(marksOfEvent(marks));
  const made = correcting(marks, sessionId, stays, now, () => app.ids.id());
  for (const mark of made)
    await keepMark(tx, {
      ...mark,
      registrationId: seat.id,
      staffId: w.actor.staffId,
      actor: w.actor.name,
      device: '',
      toldAt: now,
      why,
    });
  const is = await keepPresence(w, event, seat, [...marks, ...made], was);
  if (is.state !== 'expected') await knowArrived(tx, seat.id, now);
  await record(w, 'attendance corrected', { eventId: event.id, registrationId: seat.id, why });
}
