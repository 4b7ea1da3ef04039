import type { ShownAgenda, ShownSession } from '#contract/agenda.ts';
import { seatsLeft } from '#core/agenda/choosing.ts';
import { inOrder, isPlaced, wallTimesOf } from '#core/agenda/session.ts';
import { standing } from '#core/registration/states.ts';
import { among } from '../db/among.ts';
import type { Queries } from '../db/database.ts';
import { withPictures } from '../pictures/store.ts';
import { type EventRow, type Programme, readProgramme, roomsOf } from './store.ts';

/** How many have a seat at each session of an event. */
export async function takenOfSessions(tx: Queries, eventId: string): Promise<ReadonlyMap<string, number>> {
  const rows = await tx.query<{ sessionId: string; seats: number }>(
    `select t.session_id, count(*)::int as seats from session_seats t
       join agenda_sessions s on s.id = t.session_id join registrations r on r.id = t.registration_id
     where s.event_id = $1 and r.state in ${among(standing)} group by t.session_id`,
    [eventId],
  );
  return new Map(rows.map((row) => [row.sessionId, row.seats]));
}

/** The sessions of an event as the public sees them: those that have their place, in order. */
export async function shownSessions(
  tx: Queries,
  event: EventRow,
  /** Its programme, where it was read already. */
  known?: Programme,
): Promise<ShownSession[]> {
  const programme = known ?? (await readProgramme(tx, event.id));
  const placed = inOrder(programme.sessions).filter((s) => isPlaced(s));
  if (!placed.length) return [];
  const speakers = new Map(programme.speakers.map((s) => [s.id, s.name]));
  const rooms = new Map((await roomsOf(tx, event.venueId)).map((r) => [r.id, r]));
  const taken = await takenOfSessions(tx, event.id);
  return placed.map((s) => {
    const room = s.roomId ? rooms.get(s.roomId) : undefined;
    return {
      id: s.id,
      kind: s.kind,
      title: s.title,
      about: s.about,
      day: s.day,
      begins: s.begins,
      ends: s.ends,
      startsLocal: event.startsLocal ? wallTimesOf(s, event.startsLocal.slice(0, 10)).startsLocal : null,
      track: event.tracks.find((t) => t.id === s.trackId)?.name ?? null,
      room: room?.name ?? null,
      speakers: s.speakerIds.flatMap((id) => speakers.get(id) ?? []),
      signUp: s.signUp && s.kind === 'session',
      left: s.signUp ? seatsLeft(s, room?.capacity ?? null, taken.get(s.id) ?? 0) : null,
    };
  });
}

/** The agenda of an event's page with the people on it. */
export async function shownAgenda(tx: Queries, event: EventRow, today: string): Promise<ShownAgenda> {
  const programme = await readProgramme(tx, event.id);
  const { speakers, sponsors } = programme;
  return {
    sessions: await shownSessions(tx, event, programme),
    speakers: await withPictures(
      tx,
      speakers.map(({ contactId: _, ...s }) => s),
    ),
    sponsors: await withPictures(
      tx,
      sponsors.map(({ contactId: _, ...s }) => s),
    ),
    call: callOf(event, today),
  };
}

/** Whether sessions can be proposed on a day, and what is said about it. */
export const callOf = (event: EventRow, today: string): ShownAgenda['call'] =>
  event.call && (!event.call.closes || event.call.closes >= today) ? event.call : null;
