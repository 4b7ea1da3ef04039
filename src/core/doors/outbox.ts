import type { Instant } from '#core/time/clock.ts';

/** A mark made at a door that the server does not have yet. */
export interface WaitingMark {
  /** Its own id, by which the server knows it again. */
  id: string;
  eventId: string;
  registrationId: string;
  /** Who it is about, to be said when the server does not take it. */
  name: string;
  state: 'expected' | 'arrived' | 'left';
  despite: string;
  /** Which marks it takes back. */
  undoes: string[];
  /** The session at whose door it was made; null at the doors of the event. */
  sessionId: string | null;
  /** Of a child that left: the code of the booking, or who took them. */
  handedTo: string;
  /** What the door is called where it was made. */
  device: string;
  at: Instant;
  /** Why the server did not take it; null while it waits. */
  refused: string | null;
  /** When the server took it, in milliseconds: it shows until a list that was asked for later is there. */
  told?: number;
}

/**
 * What becomes of a mark that was sent: the server has it, the server will never take it as it is, or it is tried again.
 * `status` is the HTTP status, 0 without an answer. Only what was said about this very mark refuses it: a server in
 * trouble, a limit or a session that ended are no fault of the arrival.
 */
export function outcomeOf(status: number): 'kept' | 'refused' | 'later' {
  if (status >= 200 && status < 300) return 'kept';
  return [400, 403, 404, 409, 413, 422].includes(status) ? 'refused' : 'later';
}

/**
 * The list of a door with the marks that wait, as if the server had them; the last mark of each seat counts. Who came to a session came to the
 * event; who left one did not leave it.
 */
export function withWaiting<
  R extends { registrationId: string; attendance: string; undo: string[]; light: string; headline: string },
>(rows: readonly R[], waiting: readonly WaitingMark[], sessionId: string | null): (R & { waits: boolean })[] {
  const kept = waiting.filter(
    (m) => m.refused === null && (m.sessionId === sessionId || (sessionId === null && m.state === 'arrived')),
  );
  const last = new Map(kept.map((m) => [m.registrationId, m]));
  return rows.map((row) => {
    const mark = last.get(row.registrationId);
    if (!mark) return { ...row, waits: false };
    return {
      ...row,
      attendance: mark.state,
      // What waits here can be taken back here, together with what the server has.
      undo: [
        ...row.undo,
        ...kept.flatMap((m) =>
          m.registrationId === row.registrationId && m.state === 'arrived' ? m.id : [],
        ),
      ],
      ...(mark.state === 'arrived' ? { light: 'stop', headline: 'Already in' } : {}),
      waits: mark.told === undefined,
    };
  });
}
