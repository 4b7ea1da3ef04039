import { isPlaced, meet, type Session } from './session.ts';

/** Why somebody cannot have a seat at a session. */
export type SessionRefusal =
  | { code: 'session-not-open' }
  | { code: 'session-full' }
  | { code: 'sessions-meet'; other: string };

/** Seats of a session still to be had; null when nothing limits them. `holds`: what its room holds. */
export function seatsLeft(
  session: Pick<Session, 'capacity'>,
  holds: number | null,
  taken: number,
): number | null {
  const limits = [session.capacity, holds].filter((n) => n !== null);
  return limits.length ? Math.max(0, Math.min(...limits) - taken) : null;
}

/**
 * What keeps somebody from the sessions they choose, by session. Those they have already keep their seat, however full; of
 * two at one time, the one chosen later is refused.
 */
export function refusalsOf(
  chosen: readonly string[],
  has: ReadonlySet<string>,
  sessions: readonly (Session & { left: number | null })[],
): Map<string, SessionRefusal> {
  const refusals = new Map<string, SessionRefusal>();
  const kept: Session[] = [];
  for (const id of chosen) {
    const session = sessions.find((s) => s.id === id);
    if (!session?.signUp || session.kind === 'break' || !isPlaced(session)) {
      refusals.set(id, { code: 'session-not-open' });
      continue;
    }
    const other = kept.find((k) => meet(k, session));
    if (other) refusals.set(id, { code: 'sessions-meet', other: other.title.en });
    else if (!has.has(id) && session.left === 0) refusals.set(id, { code: 'session-full' });
    else kept.push(session);
  }
  return refusals;
}
