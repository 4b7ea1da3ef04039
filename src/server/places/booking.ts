import type { PlaceStanding } from '#contract/places.ts';
import { isPlaced, wallTimesOf } from '#core/agenda/session.ts';
import type { PlanField } from '#core/events/parts.ts';
import {
  closedOn,
  freeStarts,
  keptFor,
  overlaps,
  type Premises,
  type Span,
  spacesOf,
} from '#core/places/booking.ts';
import { sayRange } from '#core/time/say.ts';
import { instantOf, wallOf } from '#core/time/wallTime.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { insert, type Queries } from '../db/database.ts';
import { instantsOf } from '../events/parts.ts';
import { type EventRow, readEvent, readProgramme } from '../events/store.ts';
import { invalid } from '../http/problem.ts';
import { readOutside } from './diaries.ts';
import { type Booking, keepsPlace, letGo, readBookings, readPremises } from './store.ts';

/** Of several bookings of one event the first: it takes every room of a place at once. */
const oncePerEvent = (bookings: readonly Booking[]): Booking[] =>
  bookings.filter((b, at) => bookings.findIndex((other) => other.eventId === b.eventId) === at);

/** True when somebody decided that two events share their place. */
const agreed = (event: { id: string; beside: readonly { id: string }[] }, other: Booking): boolean =>
  event.beside.some((b) => b.id === other.eventId) || other.beside.some((b) => b.id === event.id);

/** Spaces an event needs for some time, and where in its plan that is said, when it is said of a session. */
interface Need {
  spaces: readonly string[];
  during: Span;
  path: string | null;
}

/** What an event needs of its place: what it is in, and the rooms its sessions are in beside that. */
async function needsOf(tx: Queries, event: EventRow, place: Premises): Promise<Need[]> {
  const spaces = spacesOf(place, event.roomId);
  const during = keptFor(event, place.setUpMinutes);
  if (!during || !spaces.length) return [];
  const { sessions } = await readProgramme(tx, event.id);
  return [
    { spaces, during, path: null },
    ...sessions.flatMap((session, at): Need[] => {
      const { roomId } = session;
      if (!roomId || spaces.includes(roomId) || !isPlaced(session)) return [];
      const { startsLocal, endsLocal } = wallTimesOf(session, event.startsLocal!.slice(0, 10));
      const from = instantOf(startsLocal, event.zone);
      const to = instantOf(endsLocal, event.zone);
      return from < to ? [{ spaces: [roomId], during: { from, to }, path: `sessions.${at}.roomId` }] : [];
    }),
  ];
}

/**
 * Takes the place of an event for its time, and lets go of what it had. Where another has it and nobody decided that they
 * share it, that is refused beside `field`; without one the event is left without its place, which its margin says.
 */
export async function keepPlace(w: Work, eventId: string, field: PlanField | null): Promise<void> {
  const { tx, app } = w;
  const event = await readEvent(tx, eventId);
  await letGo(tx, eventId);
  if (!event.venueId || !keepsPlace(event)) return;
  const place = await readPremises(tx, event.venueId, true);
  const taken: object[] = [];
  for (const { spaces, during, path } of await needsOf(tx, event, place)) {
    const others = await readBookings(tx, spaces, during, eventId);
    const inTheWay = others.find((other) => !agreed(event, other));
    if (inTheWay) {
      if (!field) return;
      const room = place.named.find((r) => r.id === spaces[0]);
      throw invalid([
        wrongAt(field === 'sessions' && path ? path : field, 'place-taken', {
          place: path && room ? room.name : event.venueName!,
          what: sayBooking(inTheWay),
        }),
      ]);
    }
    for (const spaceId of spaces)
      taken.push({
        id: app.ids.id(),
        eventId,
        venueId: place.id,
        spaceId,
        during: `[${during.from},${during.to})`,
        decided: others.length > 0,
      });
  }
  if (taken.length) await insert(tx, 'bookings', taken);
}

/** Gives some events their places anew, in the order given: whose no longer fits is left without, which its margin says. */
export async function keepAgain(w: Work, eventIds: readonly string[]): Promise<void> {
  for (const id of eventIds) await letGo(w.tx, id);
  for (const id of eventIds) await keepPlace(w, id, null);
}

const sayBooking = (b: Booking): string => `${b.title}, ${sayRange(b.startsLocal, b.endsLocal)}`;

/** How a place stands at a time that somebody has in mind for an event: who is there, and what else is free. */
export async function standingOf(
  tx: Queries,
  event: EventRow,
  wish: {
    venueId: string;
    roomId?: string | undefined;
    startsLocal: string;
    endsLocal?: string | undefined;
    doorsLocal?: string | undefined;
  },
  now: string,
): Promise<PlaceStanding> {
  const place = await readPremises(tx, wish.venueId);
  const times = instantsOf({
    startsLocal: wish.startsLocal,
    endsLocal: wish.endsLocal ?? null,
    doorsLocal: wish.doorsLocal ?? null,
    registrationClosesLocal: null,
    zone: event.zone,
    secondTime: event.secondTime,
  });
  const during = keptFor(times, place.setUpMinutes)!;
  const closed = closedOn(place.closed, wish.startsLocal.slice(0, 10));
  const wanted = spacesOf(place, wish.roomId ?? null);
  const outside = (await readOutside(tx, place.id, wish.roomId ?? null, during)).map((o) => ({
    diary: o.diary,
    summary: o.summary,
    when: sayRange(wallOf(o.from, event.zone), wallOf(o.to, event.zone)),
    tentative: o.tentative,
  }));
  if (!wanted.length) return { taken: [], rooms: [], starts: [], outside, closed };
  // Everything at the place for the weeks in which another time is proposed.
  const around: Span = { from: shiftDays(during.from, -1), to: shiftDays(during.to, 60) };
  const bookings = await readBookings(tx, [place.id, ...place.rooms], around, event.id);
  const taking = (spaces: readonly string[]) => bookings.filter((b) => spaces.includes(b.spaceId));
  const taken = oncePerEvent(taking(wanted).filter((b) => overlaps(b, during))).map((b) => ({
    eventId: b.eventId,
    title: b.title,
    when: sayRange(b.startsLocal, b.endsLocal),
    agreed: agreed(event, b),
  }));
  const inTheWay = taken.some((t) => !t.agreed);
  const before = (Date.parse(times.startsAt!) - Date.parse(during.from)) / 60_000;
  const long = (Date.parse(during.to) - Date.parse(times.startsAt!)) / 60_000;
  return {
    taken,
    outside,
    rooms: inTheWay
      ? place.named.filter((r) => r.id !== wish.roomId && !taking([r.id]).some((b) => overlaps(b, during)))
      : [],
    starts:
      inTheWay || closed
        ? freeStarts(
            { startsLocal: wish.startsLocal, zone: event.zone, before, long },
            taking(wanted).filter((b) => !agreed(event, b)),
            place.closed,
            now,
          )
        : [],
    closed,
  };
}

const shiftDays = (at: string, days: number): string =>
  new Date(Date.parse(at) + days * 86_400_000).toISOString();
