import type { CalendarDate, WallTime } from '#core/time/clock.ts';
import { daysBetween, shiftDate } from '#core/time/dates.ts';
import type { Texts } from '#core/words/texts.ts';

/** A time of day, "09:30". */
export type TimeOfDay = string;

/**
 * When a session is, by the day of its event and the clock on the wall there: it moves with the event's date by itself, and
 * needs none. All three are null while it has no place in the agenda yet.
 */
export interface SessionTimes {
  /** From 1. */
  day: number | null;
  begins: TimeOfDay | null;
  /** At or before `begins`: on the next day. */
  ends: TimeOfDay | null;
}

/** One thing of an agenda: a session people choose, or a break everybody has. */
export interface Session extends SessionTimes {
  id: string;
  kind: 'session' | 'break';
  title: Texts;
  about: Texts;
  trackId: string | null;
  roomId: string | null;
  /** Seats; null for no limit of its own. */
  capacity: number | null;
  /** Whether people sign up for it. */
  signUp: boolean;
  speakerIds: readonly string[];
}

type Placed<S extends SessionTimes> = S & { day: number; begins: TimeOfDay; ends: TimeOfDay };

/** True once a session has its place in the agenda. */
export const isPlaced = <S extends SessionTimes>(session: S): session is Placed<S> =>
  session.day !== null && session.begins !== null && session.ends !== null;

const minutesOf = (time: TimeOfDay): number => Number(time.slice(0, 2)) * 60 + Number(time.slice(3));

/** Minutes from the midnight that begins the event, to where a session begins and ends. */
function stretchOf(session: Placed<SessionTimes>): { from: number; to: number } {
  const from = (session.day - 1) * 1440 + minutesOf(session.begins);
  const long = (minutesOf(session.ends) - minutesOf(session.begins) + 1440) % 1440;
  return { from, to: from + long };
}

/** The wall times of a session of an event that begins on a date. */
export function wallTimesOf(
  session: Placed<SessionTimes>,
  eventDate: CalendarDate,
): { startsLocal: WallTime; endsLocal: WallTime } {
  const date = shiftDate(eventDate, session.day - 1);
  const endsOn = session.ends > session.begins ? date : shiftDate(date, 1);
  return { startsLocal: `${date}T${session.begins}`, endsLocal: `${endsOn}T${session.ends}` };
}

/** True when two sessions have a moment in common; a break is in nobody's way. */
export function meet(a: SessionTimes, b: SessionTimes): boolean {
  if (!isPlaced(a) || !isPlaced(b)) return false;
  const [x, y] = [stretchOf(a), stretchOf(b)];
  return x.from < y.to && y.from < x.to;
}

/** In the order they happen; those without a place come last, in the order they were written. */
export const inOrder = <S extends SessionTimes>(sessions: readonly S[]): S[] =>
  sessions
    .map((session) => ({ session, from: isPlaced(session) ? stretchOf(session).from : Infinity }))
    .sort((a, b) => (a.from === b.from ? 0 : a.from - b.from))
    .map(({ session }) => session);

const clockOf = (minutes: number): TimeOfDay =>
  `${String(Math.floor(minutes / 60) % 24).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;

/**
 * Sessions put earlier or later by some minutes, as they stand to each other; one that would begin before the first day of its event
 * stays where it is.
 */
export const sessionsAlong = <S extends SessionTimes>(sessions: readonly S[], minutes: number): S[] =>
  sessions.map((session) => {
    if (!isPlaced(session)) return session;
    const { from, to } = stretchOf(session);
    const begins = from + minutes;
    return begins < 0
      ? session
      : {
          ...session,
          day: Math.floor(begins / 1440) + 1,
          begins: clockOf(begins),
          ends: clockOf(to + minutes),
        };
  });

/** A session that has no place in the agenda yet, no limit and nobody on it. */
export const unplaced = (id: string, title: Texts) => ({
  id,
  kind: 'session' as Session['kind'],
  title,
  about: { en: '' } as Texts,
  day: null as number | null,
  begins: null as TimeOfDay | null,
  ends: null as TimeOfDay | null,
  trackId: null as string | null,
  roomId: null as string | null,
  capacity: null as number | null,
  signUp: false,
  speakerIds: [] as string[],
});

/**
 * Where the next session of a day is put: right after the one that ends last, as long as that one within 15 and 90 minutes;
 * the first of all when its event begins, others at nine, 45 minutes long.
 */
export function nextTimes(
  sessions: readonly SessionTimes[],
  day: number,
  startsLocal: WallTime | null,
): { day: number; begins: TimeOfDay; ends: TimeOfDay } {
  const stretches = sessions
    .filter(isPlaced)
    .filter((s) => s.day === day)
    .map(stretchOf);
  const last = stretches.sort((a, b) => a.to - b.to).at(-1);
  if (!last) {
    const begins = day === 1 && startsLocal ? startsLocal.slice(11) : '09:00';
    return { day, begins, ends: clockOf(minutesOf(begins) + 45) };
  }
  const { from, to } = last;
  const long = Math.min(90, Math.max(15, to - from));
  // After midnight it is the next day of the event.
  return { day: Math.floor(to / 1440) + 1, begins: clockOf(to), ends: clockOf(to + long) };
}

/** On how many days an event takes place; 1 where it says no end. What ends by 06:00 belongs to the evening before. */
export function daysOf(event: { startsLocal: WallTime; endsLocal: WallTime | null }): number {
  if (!event.endsLocal) return 1;
  const days = daysBetween(event.startsLocal.slice(0, 10), event.endsLocal.slice(0, 10));
  return Math.max(1, days + (event.endsLocal.slice(11) > '06:00' ? 1 : 0));
}

/** The sessions of each day that begin together, in order: how a timetable is read. */
export function slotsOf<S extends SessionTimes>(
  sessions: readonly S[],
): { day: number; slots: { begins: TimeOfDay; sessions: Placed<S>[] }[] }[] {
  const days: { day: number; slots: { begins: TimeOfDay; sessions: Placed<S>[] }[] }[] = [];
  for (const session of inOrder(sessions)) {
    if (!isPlaced(session)) continue;
    let day = days.find((d) => d.day === session.day);
    if (!day) {
      day = { day: session.day, slots: [] };
      days.push(day);
    }
    const last = day.slots.at(-1);
    if (last?.begins === session.begins) last.sessions.push(session);
    else day.slots.push({ begins: session.begins, sessions: [session] });
  }
  return days;
}
