import type { WallTime, Zone } from '#core/time/clock.ts';
import { sayTime, sayZone } from '#core/time/say.ts';
import { meaningOf } from '#core/time/wallTime.ts';
import type { Params } from '#core/words/filling.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import { isPlaced, meet, type Session, wallTimesOf } from './session.ts';

/** What of an event its agenda has to fit into. */
export interface AgendaFrame {
  startsLocal: WallTime | null;
  endsLocal: WallTime | null;
  zone: Zone;
  tracks: readonly { id: string }[];
  speakers: readonly { id: string }[];
  /** Rooms that its sessions may be in. */
  rooms: readonly string[];
}

const sameTimes = (a: Session, b: Session | undefined): boolean =>
  b !== undefined && a.day === b.day && a.begins === b.begins && a.ends === b.ends;

/**
 * What is wrong with an agenda. A session outside its event is refused where it was put there; one that the event moved away
 * from is only remarked on (`remarksOnAgenda`), so that the rest of the agenda can still be written.
 */
export function problemsWithAgenda(
  sessions: readonly Session[],
  frame: AgendaFrame,
  before: readonly Session[] = [],
): Wrong[] {
  const known = new Map(before.map((s) => [s.id, s]));
  return sessions.flatMap((session, at) => {
    const path = (field: string) => `sessions.${at}.${field}`;
    const wrong: Wrong[] = [];
    if (!session.title.en.trim()) wrong.push(wrongAt(path('title.en'), 'session-untitled'));
    const given = [session.day, session.begins, session.ends].filter((x) => x !== null).length;
    if (given > 0 && given < 3) wrong.push(wrongAt(path('begins'), 'session-half-placed'));
    if (isPlaced(session)) {
      if (session.begins === session.ends) wrong.push(wrongAt(path('ends'), 'session-no-length'));
      else if (!sameTimes(session, known.get(session.id))) wrong.push(...misplaced(session, frame, path));
    }
    if (session.trackId && !frame.tracks.some((t) => t.id === session.trackId))
      wrong.push(wrongAt(path('trackId'), 'thing-gone', { what: 'track' }));
    if (
      session.roomId &&
      session.roomId !== known.get(session.id)?.roomId &&
      !frame.rooms.includes(session.roomId)
    )
      wrong.push(wrongAt(path('roomId'), 'room-elsewhere'));
    if (session.speakerIds.some((id) => !frame.speakers.some((s) => s.id === id)))
      wrong.push(wrongAt(path('speakerIds'), 'thing-gone', { what: 'speaker' }));
    return wrong;
  });
}

function misplaced(
  session: Session & { day: number; begins: string; ends: string },
  { startsLocal, endsLocal, zone }: AgendaFrame,
  path: (field: string) => string,
): Wrong[] {
  if (!startsLocal) return [];
  const times = wallTimesOf(session, startsLocal.slice(0, 10));
  if (isOutside(session, { startsLocal, endsLocal }))
    return [
      wrongAt(path('begins'), 'session-outside', {
        from: sayTime(startsLocal),
        to: endsLocal ? sayTime(endsLocal) : '',
      }),
    ];
  const meaning = meaningOf(times.startsLocal, zone);
  return meaning.kind === 'gap'
    ? [
        wrongAt(path('begins'), 'time-removed', {
          time: session.begins,
          zone: sayZone(zone),
          before: sayTime(meaning.before),
          after: sayTime(meaning.after),
        }),
      ]
    : [];
}

/** True for a session that begins before its event, or ends after it. */
function isOutside(
  session: Session,
  event: { startsLocal: WallTime | null; endsLocal: WallTime | null },
): boolean {
  if (!event.startsLocal || !isPlaced(session)) return false;
  const { startsLocal, endsLocal } = wallTimesOf(session, event.startsLocal.slice(0, 10));
  return startsLocal < event.startsLocal || (event.endsLocal !== null && endsLocal > event.endsLocal);
}

/** Something about an agenda that somebody should look at, with words in `core/words/agenda.en.ts`. */
export interface AgendaRemark {
  sessionId: string;
  code: 'outside' | 'speaker-twice' | 'room-twice' | 'more-than-room';
  params: Params;
}

/** Sessions the event moved away from; speakers and rooms that are needed twice at once; more seats than the room has. */
export function remarksOnAgenda(
  sessions: readonly Session[],
  event: { startsLocal: WallTime | null; endsLocal: WallTime | null },
  speakers: readonly { id: string; name: string }[],
  rooms: readonly { id: string; name: string; capacity: number | null }[],
): AgendaRemark[] {
  const remarks: AgendaRemark[] = [];
  sessions.forEach((session, at) => {
    const title = session.title.en;
    if (isOutside(session, event))
      remarks.push({ sessionId: session.id, code: 'outside', params: { title } });
    const room = rooms.find((r) => r.id === session.roomId);
    if (room?.capacity && session.capacity && session.capacity > room.capacity)
      remarks.push({
        sessionId: session.id,
        code: 'more-than-room',
        params: { title, seats: session.capacity, room: room.name, holds: room.capacity },
      });
    for (const other of sessions.slice(at + 1)) {
      if (!meet(session, other)) continue;
      const both = { title, other: other.title.en };
      for (const speaker of speakers)
        if (session.speakerIds.includes(speaker.id) && other.speakerIds.includes(speaker.id))
          remarks.push({
            sessionId: session.id,
            code: 'speaker-twice',
            params: { ...both, speaker: speaker.name },
          });
      if (room && session.roomId === other.roomId && session.kind === 'session' && other.kind === 'session')
        remarks.push({ sessionId: session.id, code: 'room-twice', params: { ...both, room: room.name } });
    }
  });
  return remarks;
}
