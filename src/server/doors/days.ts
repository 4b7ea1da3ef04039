import { daysOf, inOrder, isPlaced, wallTimesOf } from '#core/agenda/session.ts';
import { type DoorDay, doorDays } from '#core/doors/days.ts';
import { instantOf } from '#core/time/wallTime.ts';
import type { Queries } from '../db/database.ts';
import { type EventRow, readProgramme, roomsOf } from '../events/store.ts';

/** A session as its door knows it. */
export interface DoorSession {
  id: string;
  title: string;
  from: string;
  until: string;
  room: string | null;
  signUp: boolean;
  kind: 'session' | 'break';
}

/** The days of an event; its programme is read only where it has several. */
export async function doorDaysOf(tx: Queries, event: EventRow): Promise<DoorDay[]> {
  const { startsLocal, doors } = event;
  const several = doors.goHome && startsLocal && daysOf({ ...event, startsLocal }) > 1;
  return doorDays(
    { ...event, goHome: doors.goHome },
    several ? (await readProgramme(tx, event.id)).sessions : [],
  );
}

/** The sessions of an event that have a time, in order; none without a date. */
export async function doorSessions(tx: Queries, event: EventRow): Promise<DoorSession[]> {
  const { startsLocal, zone } = event;
  if (!startsLocal) return [];
  const { sessions } = await readProgramme(tx, event.id);
  const rooms = new Map((await roomsOf(tx, event.venueId)).map((r) => [r.id, r.name]));
  return inOrder(sessions)
    .filter(isPlaced)
    .filter((s) => s.kind === 'session')
    .map((s) => {
      const times = wallTimesOf(s, startsLocal.slice(0, 10));
      return {
        id: s.id,
        title: s.title.en,
        from: instantOf(times.startsLocal, zone),
        until: instantOf(times.endsLocal, zone),
        room: (s.roomId && rooms.get(s.roomId)) ?? null,
        signUp: s.signUp,
        kind: s.kind,
      };
    });
}
