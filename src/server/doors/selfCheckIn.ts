import type { z } from 'zod';
import type { doorsContract } from '#contract/doors.ts';
import { hasCome } from '#core/doors/attendance.ts';
import { canBeLookedFor, findHere } from '#core/doors/selfCheckIn.ts';
import { eventDayOf } from '#core/doors/verdict.ts';
import { lives } from '#core/events/states.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { wrongAt } from '#core/words/problems.ts';
import { followLink, liveLink, openLink, renewLink, stopLink, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import type { Queries } from '../db/database.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { invalid, notFound } from '../http/problem.ts';
import { mark } from './commands.ts';
import { doorRows } from './list.ts';
import { keepPlace, seatsToFind } from './store.ts';

type Said = z.output<(typeof doorsContract)['POST /api/public/here/:token']['body']>;
type Outcome = z.input<(typeof doorsContract)['POST /api/public/here/:token']['response']>;

/** The address of the page of an event where people check themselves in; null where they do not. */
export async function selfCheckInPage(w: Pick<Work, 'app' | 'tx'>, eventId: string): Promise<string | null> {
  const token = await liveLink(w, 'here', eventId);
  return token && `${w.app.origin}/here/${token}`;
}

/** Lets people check themselves in at an event, or no longer. A code that was stopped stays so: what hangs on a wall meanwhile opens nothing. */
export async function setSelfCheckIn(w: Work, eventId: string, on: boolean): Promise<string | null> {
  const now = await selfCheckInPage(w, eventId);
  if (on && !now) {
    await openLink(w, 'here', eventId);
    if (!(await liveLink(w, 'here', eventId))) await renewLink(w, 'here', eventId);
  }
  if (!on) await stopLink(w, 'here', eventId);
  if (on !== (now !== null)) await record(w, 'self check-in set', { eventId, on });
  return selfCheckInPage(w, eventId);
}

/** The event whose poster somebody scanned. */
export async function eventHere(tx: Queries, token: string): Promise<EventRow> {
  const id = await followLink(tx, 'here', token);
  if (!id) throw notFound('This page');
  return readEvent(tx, id);
}

/** True while people can check themselves in: on the day, as long as it takes place. */
export const isOpenHere = (event: EventRow, now: string): boolean =>
  lives(event.state) && eventDayOf(event, dateOf(now, event.zone)) === 'today';

/** Somebody says that they are here. Whoever is not found, or has something to settle, is sent to the door: nothing else is said. */
export async function checkIn(w: Work, event: EventRow, said: Said): Promise<Outcome> {
  if (!canBeLookedFor(said)) throw invalid([wrongAt('known', 'known-by-needed')]);
  if (!isOpenHere(event, w.now)) return { outcome: 'see the door', others: 0 };
  const people = await seatsToFind(w.tx, event.id);
  const found = findHere(people, said);
  if (!found) return { outcome: 'not found', others: 0 };
  const rows = await doorRows(w, event, { now: w.now });
  const own = rows.find((r) => r.registrationId === found.registrationId)!;
  const party = rows.filter(
    (r) => r.orderId === own.orderId && r !== own && (r.given || r.family) && !hasCome(r.attendance),
  );
  const was = hasCome(own.attendance);
  if (!was && own.light !== 'go') return { outcome: 'see the door', others: 0 };
  const ready = [...(was ? [] : [own]), ...(said.others ? party.filter((r) => r.light === 'go') : [])];
  for (const { registrationId } of ready) {
    await mark(w, registrationId, { eventId: event.id, state: 'arrived', despite: '', device: 'themselves' });
  }
  if (said.place && (was || ready.includes(own))) await keepPlace(w.tx, own.registrationId, said.place);
  const left = party.filter((r) => !ready.includes(r)).length;
  // Others who have something to settle are for the door to see.
  if (said.others && left > 0) return { outcome: 'see the door', others: left };
  return { outcome: was && !ready.length ? 'already in' : 'in', others: left };
}
