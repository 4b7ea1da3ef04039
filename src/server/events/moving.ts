import type { Consequences } from '#core/events/consequences.ts';
import { type EventState, mayBecome } from '#core/events/states.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import { refused } from '../http/problem.ts';
import { readEvent } from './store.ts';

/** Moves an event on to another state, with its history. Refuses what the states do not allow. Answers what followed. */
export async function moveOn(
  w: Work,
  eventId: string,
  to: EventState,
  words: string,
): Promise<Consequences | null> {
  const event = await readEvent(w.tx, eventId);
  if (event.state === to) return null;
  if (!mayBecome(event.state, to)) throw refused('event-cannot-become', { state: event.state, to });
  await update(w.tx, 'events', eventId, {
    state: to,
    // Calendars that have the event take what is newer.
    version: event.version + 1,
    updatedAt: w.now,
  });
  await insert(w.tx, 'event_states', {
    id: w.app.ids.id(),
    eventId,
    state: to,
    at: w.now,
    actor: w.actor.name,
    words,
  });
  return record(w, 'event moved on', { eventId, from: event.state, to, words });
}
