import type { agendaContract } from '#contract/agenda.ts';
import { fullName } from '#core/contacts/names.ts';
import { hasFrench, textFor, titleFor } from '#core/events/french.ts';
import { shownToPublic } from '#core/events/states.ts';
import { writeCalendar } from '#core/exchange/calendar.ts';
import { standing } from '#core/registration/states.ts';
import { instantOf, shiftWall } from '#core/time/wallTime.ts';
import { readTexts } from '#core/words/texts.ts';
import type { Queries } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { shownSessions, takenOfSessions } from '../events/agenda.ts';
import { sayPlace } from '../events/saying.ts';
import { readEvent } from '../events/store.ts';
import { File, type Handlers } from '../http/handle.ts';
import { notFound } from '../http/problem.ts';
import { orderByLink } from '../registration/links.ts';
import { readOrder, readSeats, type SeatRow } from '../registration/store.ts';
import { chooseSessions, decideProposal, eventOfCall, proposeSession } from './commands.ts';
import { readChosen, readProposal, readProposals } from './store.ts';

/** A seat of the booking a personal link leads to. */
async function seatByLink(tx: Queries, token: string, seatId: string): Promise<SeatRow> {
  const seat = (await readSeats(tx, await orderByLink(tx, token))).find((s) => s.id === seatId);
  if (!seat) throw notFound('This seat');
  return seat;
}

export const agendaHandlers: Handlers<typeof agendaContract> = {
  'GET /api/events/:id/agenda': async (c) => {
    const event = await eventFor(c, c.params.id, 'plan', 'see');
    const taken = await takenOfSessions(c.tx, event.id);
    return {
      taken: [...taken].map(([sessionId, seats]) => ({ sessionId, seats })),
      proposals: await readProposals(c.tx, event.id),
    };
  },

  'POST /api/session-proposals/:id/decide': async (c) => {
    const { eventId } = await readProposal(c.tx, c.params.id);
    await eventFor(c, eventId, 'plan', 'change');
    return { version: await decideProposal(c, c.params.id, c.body.accept, c.body.words) };
  },

  'GET /api/public/events/:slug/call': async ({ tx, params, now }) => {
    const event = await eventOfCall(tx, params.slug, now);
    const { publicTitle: french } = textFor(event, event.french, 'fr');
    return {
      title: event.publicTitle,
      french: hasFrench(event.french) ? { title: french } : null,
      startsLocal: event.startsLocal,
      isPublic: shownToPublic.includes(event.state),
      call: event.call!,
    };
  },

  'POST /api/public/events/:slug/proposals': async (c) => {
    await proposeSession(c, c.params.slug, c.body);
    return { done: true };
  },

  'GET /api/public/orders/:token/sessions': async ({ tx, params }) => {
    const order = await readOrder(tx, await orderByLink(tx, params.token));
    const event = await readEvent(tx, order.eventId);
    const seats = (await readSeats(tx, order.id)).filter((s) => standing.includes(s.state));
    const chosen = await readChosen(
      tx,
      seats.map((s) => s.id),
    );
    return {
      sessions: (await shownSessions(tx, event)).filter((s) => s.signUp),
      seats: seats
        .filter((s) => s.state === 'confirmed')
        .map((s) => ({
          id: s.id,
          name: fullName({ given: s.givenName, family: s.familyName }),
          has: chosen.filter((x) => x.registrationId === s.id).map((x) => x.sessionId),
        })),
    };
  },

  'PUT /api/public/orders/:token/seats/:seat/sessions': async (c) => {
    await chooseSessions(c, await seatByLink(c.tx, c.params.token, c.params.seat), c.body.sessions);
    return { done: true };
  },

  'GET /api/public/orders/:token/seats/:seat/sessions.ics': async ({ tx, params, now, app }) => {
    const seat = await seatByLink(tx, params.token, params.seat);
    const { language } = await readOrder(tx, seat.orderId);
    const event = await readEvent(tx, seat.eventId);
    const has = new Set((await readChosen(tx, [seat.id])).map((c) => c.sessionId));
    const entries = (await shownSessions(tx, event)).flatMap((s) => {
      if (!has.has(s.id) || !s.startsLocal) return [];
      const minutes = (clock(s.ends) - clock(s.begins) + 1440) % 1440;
      return [
        {
          uid: `${s.id}@acolyte`,
          startsAt: instantOf(s.startsLocal, event.zone),
          zone: event.zone,
          endsAt: instantOf(shiftWall(s.startsLocal, { minutes }), event.zone),
          summary: readTexts(s.title, language),
          description: s.speakers.join(', '),
          location: [s.room, sayPlace(event, language)].filter(Boolean).join(', '),
          url: `${app.origin}/e/${event.slug}`,
          sequence: event.version,
          cancelled: event.state === 'called off',
        },
      ];
    });
    return new File('sessions.ics', writeCalendar(titleFor(event, language), entries, now));
  },
};

const clock = (time: string): number => Number(time.slice(0, 2)) * 60 + Number(time.slice(3));
