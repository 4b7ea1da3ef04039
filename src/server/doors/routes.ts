import type { doorsContract } from '#contract/doors.ts';
import type { Answered } from '#contract/endpoint.ts';
import { factsOf, mayChange } from '#core/access/stages.ts';
import { fullName } from '#core/contacts/names.ts';
import { hasCome } from '#core/doors/attendance.ts';
import { readPassCode } from '#core/doors/passCode.ts';
import { eventDayOf } from '#core/doors/verdict.ts';
import { hasFrench } from '#core/events/french.ts';
import { limitsOf } from '#core/registration/capacity.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { Said } from '#core/words/filling.ts';
import { herePosterSays } from '#core/words/posters.ts';
import { sayVerdict, type VerdictCode } from '#core/words/verdicts.ts';
import { logCare } from '../contacts/seeing.ts';
import { resolveContact, searchContacts } from '../contacts/store.ts';
import { eventFor } from '../events/access.ts';
import { readOffers } from '../events/store.ts';
import { File, type Handlers } from '../http/handle.ts';
import { notFound, refused } from '../http/problem.ts';
import { mayTakeCash } from '../money/access.ts';
import { posterFile } from '../print/posterFile.ts';
import { readCare } from '../registration/care.ts';
import { readSeat } from '../registration/store.ts';
import { theOrganization } from '../staff/store.ts';
import { signForSeats } from '../waivers/signing.ts';
import { asRead, waiversAt } from '../waivers/store.ts';
import { sentFrom } from '../waivers/telling.ts';
import { mark } from './commands.ts';
import { doorSessions } from './days.ts';
import { insideNow, insidePdf } from './inside.ts';
import { doorRows } from './list.ts';
import {
  checkIn,
  eventHere,
  isOpenHere,
  selfCheckInPages,
  setSelfCheckIn,
  signAtKiosk,
} from './selfCheckIn.ts';
import { crewInside, doorsAround, seatOfPass } from './store.ts';
import { letIn, peopleAlong } from './walkIns.ts';

/** As much of somebody as tells them apart from a namesake: the first letter and the house of an email, the last digits. */
function hintOf(l: { email: string | null; phone: string | null }): string {
  const [name = '', house = ''] = (l.email ?? '').split('@');
  return [house && `${name[0] ?? ''}…@${house}`, l.phone && `…${l.phone.slice(-2)}`]
    .filter(Boolean)
    .join(', ');
}

export const doorsHandlers: Handlers<typeof doorsContract> = {
  'GET /api/registrations/:id/care': async (c) => {
    const seat = await readSeat(c.tx, c.params.id);
    const event = await eventFor(c, seat.eventId, 'doors', 'see');
    const facts = factsOf(c.staff, event, c.now);
    if (!facts.has('health')) throw refused('not-your-health', {}, 403);
    const notes = await readCare(c.tx, seat.id, facts.has('answers'));
    if (notes.length)
      await logCare(c, 'doors', [{ contactId: seat.contactId, registrationId: seat.id, eventId: event.id }]);
    return { notes };
  },

  'GET /api/events/:id/doors': async (c) => {
    const { tx, params, now, query } = c;
    const event = await eventFor(c, params.id, 'doors', 'see');
    const health = factsOf(c.staff, event, now).has('health');
    const sessionId = query.session ?? null;
    const rows = (await doorRows(c, event, { now, sessionId })).map((r) => ({
      ...r,
      care: health && r.care,
    }));
    const offers = await readOffers(tx, params.id);
    const pages = await selfCheckInPages(c, event.id);
    return {
      title: event.publicTitle,
      startsLocal: event.startsLocal,
      state: event.state,
      sessions: (await doorSessions(tx, event)).map(({ signUp: _, kind: __, ...s }) => ({
        ...s,
        today: dateOf(s.from, event.zone) === dateOf(now, event.zone),
      })),
      closedAt: event.absencesAt,
      confirmed: rows.length,
      arrived: rows.filter((r) => hasCome(r.attendance)).length,
      inside: rows.filter((r) => r.attendance === 'arrived').length,
      capacity: limitsOf(event).capacity,
      most:
        event.doors.most === null ? null : { people: event.doors.most, crew: await crewInside(tx, event.id) },
      day: eventDayOf(event, dateOf(now, event.zone)),
      currency: event.paidIn,
      selfCheckIn: pages.page,
      kiosk: pages.kiosk,
      waivers: (await waiversAt(tx, event.id)).map((w) => asRead(w, 'en')),
      offers: offers.map(({ id, name, price }) => ({ id, name, price })),
      rows,
    };
  },

  'POST /api/events/:id/scan': async (c) => {
    const { tx, params, body, now } = c;
    const event = await eventFor(c, params.id, 'doors', 'change');
    const stop = (headline: VerdictCode, detail: Said<VerdictCode>) => ({
      row: null,
      light: 'stop' as const,
      headline: sayVerdict({ code: headline }),
      details: [sayVerdict(detail)],
    });
    const code = readPassCode(body.code);
    if (!code) return stop('no-code', { code: 'not-our-code' });
    const seat = await seatOfPass(tx, code);
    if (!seat) return stop('unknown-pass', { code: 'nobody-holds-it' });
    if (seat.eventId !== event.id)
      return stop('another-event', { code: 'pass-of-another', params: { event: seat.title } });
    const [row] = await doorRows(c, event, { now, registrationId: seat.id, sessionId: body.sessionId });
    return { row: row!, light: row!.light, headline: row!.headline, details: row!.details };
  },

  'POST /api/registrations/:id/attendance': async (c) => {
    await eventFor(c, c.body.eventId, 'doors', 'change');
    await eventFor(c, (await readSeat(c.tx, c.params.id)).eventId, 'doors', 'change');
    return mark(c, c.params.id, c.body);
  },

  'POST /api/registrations/:id/signatures': async (c) => {
    const seat = await readSeat(c.tx, c.params.id);
    const event = await eventFor(c, seat.eventId, 'doors', 'change');
    const { relation, answers, others, ...hand } = c.body;
    const along = [];
    for (const other of others) {
      const of = await readSeat(c.tx, other.registrationId);
      // What one hand signs belongs to one booking.
      if (of.orderId !== seat.orderId) throw notFound('This seat');
      along.push({ ...of, relation: other.relation, answers: other.answers });
    }
    await signForSeats(c, [{ ...seat, relation, answers }, ...along], hand, {
      ...sentFrom(c.request),
      device: c.staff.name,
      way: 'door',
      // Whoever signs stands there.
      mayKnow: () => true,
      signer: null,
      copyTo: null,
      language: 'en',
    });
    const rowOf = async (id: string) => (await doorRows(c, event, { now: c.now, registrationId: id }))[0]!;
    const signed = [];
    for (const { id } of along) signed.push(await rowOf(id));
    return { row: await rowOf(seat.id), others: signed };
  },

  'GET /api/doors': async (c) => {
    const { zone } = await theOrganization(c.tx);
    const today = dateOf(c.now, zone);
    const rows = await doorsAround(c.tx, c.now);
    const found: Answered<(typeof doorsContract)['GET /api/doors']> = [];
    for (const { reach, endsLocal, doorsLocal, zone: where, ...row } of rows) {
      if (!mayChange(c.staff, { id: row.id, ...reach }, 'doors', c.now)) continue;
      const day = eventDayOf(
        { startsLocal: row.startsLocal, endsLocal, doorsLocal },
        dateOf(c.now, where) || today,
      );
      if (day !== 'no date') found.push({ ...row, day });
    }
    const order = { today: 0, 'to come': 1, past: 2 };
    return found.sort((a, b) => order[a.day] - order[b.day]);
  },

  'GET /api/events/:id/inside': async (c) => {
    const event = await eventFor(c, c.params.id, 'doors', 'see');
    if (!factsOf(c.staff, event, c.now).has('health')) throw refused('not-your-health', {}, 403);
    return { now: c.now, rows: await insideNow(c, event) };
  },

  'GET /api/events/:id/inside.pdf': async (c) => {
    const event = await eventFor(c, c.params.id, 'doors', 'see');
    if (!factsOf(c.staff, event, c.now).has('health')) throw refused('not-your-health', {}, 403);
    return new File('inside.pdf', await insidePdf(event, await insideNow(c, event), c.now), true);
  },

  'PUT /api/events/:id/self-check-in': async (c) => {
    const event = await eventFor(c, c.params.id, 'doors', 'change');
    return setSelfCheckIn(c, event.id, c.body.on);
  },

  'GET /api/events/:id/self-check-in.pdf': async (c) => {
    const event = await eventFor(c, c.params.id, 'doors', 'see');
    const { page } = await selfCheckInPages(c, event.id);
    if (!page) throw notFound('This page');
    return posterFile(c.tx, 'check-in.pdf', {
      title: event.publicTitle,
      says: herePosterSays(hasFrench(event.french)),
      address: page,
    });
  },

  'GET /api/public/here/:token': async (c) => {
    const { event } = await eventHere(c.tx, c.params.token);
    return {
      title: event.publicTitle,
      startsLocal: event.startsLocal,
      organization: (await theOrganization(c.tx)).name,
      open: isOpenHere(event, c.now),
    };
  },

  'POST /api/public/here/:token': async (c) => checkIn(c, await eventHere(c.tx, c.params.token), c.body),

  'POST /api/public/here/:token/signatures': async (c) => {
    await signAtKiosk(c, await eventHere(c.tx, c.params.token), c.body, sentFrom(c.request));
    return { done: true };
  },

  'GET /api/events/:id/known': async (c) => {
    await eventFor(c, c.params.id, 'doors', 'change');
    const lines = await searchContacts(c.tx, c.query.q, 6);
    return lines
      .filter((l) => l.kind === 'person')
      .map((l) => ({ contactId: l.id, name: fullName(l), hint: hintOf(l) }));
  },

  'GET /api/events/:id/known/:contact': async (c) => {
    const event = await eventFor(c, c.params.id, 'doors', 'change');
    const contactId = await resolveContact(c.tx, c.params.contact);
    if (!contactId) throw notFound('This person');
    return (await peopleAlong(c.tx, event.id, contactId)).map(({ birthDate: _, ...p }) => p);
  },

  'POST /api/events/:id/walk-ins': async (c) => {
    const event = await eventFor(c, c.params.id, 'doors', 'change', true);
    if (c.body.paid && !mayTakeCash(c.staff, event, c.now)) throw refused('not-your-event', {}, 403);
    return letIn(c, event, c.body, c.query.sentAt);
  },
};
