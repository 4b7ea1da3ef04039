import type { guestsContract } from '#contract/guests.ts';
import type { registrationContract } from '#contract/registration.ts';
import { fullName } from '#core/contacts/names.ts';
import { isEmail } from '#core/contacts/reach.ts';
import { titleFor } from '#core/events/french.ts';
import { shownToPublic, silentStates } from '#core/events/states.ts';
import { writeCalendar } from '#core/exchange/calendar.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { readTexts } from '#core/words/texts.ts';
import { type Asker, followLink, type Work, whatIf } from '../app/app.ts';
import { record } from '../app/record.ts';
import { contactFor } from '../contacts/seeing.ts';
import { visitorOf } from '../contacts/visitor.ts';
import type { Queries } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { entryOf } from '../events/calendar.ts';
import { sayPlace, sayWhen } from '../events/saying.ts';
import { readEvent, readOffers, readQuestions } from '../events/store.ts';
import { File, type Handlers } from '../http/handle.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { logoOf } from '../pictures/store.ts';
import { passesPdf } from '../print/passes.ts';
import { theOrganization } from '../staff/store.ts';
import { mayBeTold } from '../waivers/telling.ts';
import { keepAnswerFile } from './answerFiles.ts';
import { enterCode } from './codes.ts';
import { placeOrders, seriesShown } from './dates.ts';
import { guestHandlers } from './guests.ts';
import { invitedVisitor } from './invited.ts';
import { orderByLink } from './links.ts';
import { feedFor, listingFor } from './listing.ts';
import { changeOrderAnswers, nameSeat } from './naming.ts';
import { placeOrder, takesRegistrations } from './ordering.ts';
import { publicEventOf, publicEventRow, publicOrderOf } from './public.ts';
import type { OrderRequest } from './request.ts';
import { readOrder, readSeats } from './store.ts';
import { demandTries } from './tries.ts';
import { takeSeats } from './waiting.ts';
import { withdrawSeats } from './withdrawing.ts';

/** Registers somebody who asked for it by telephone, or at the desk; whoever they pick among those on record is theirs to see. */
async function registerFor(
  by: Asker & { tx: Queries },
  w: Work,
  eventId: string,
  { contactId, ...order }: OrderRequest & { contactId: string | null },
) {
  const buyerContactId = contactId && (await contactFor(by, contactId)).contactId;
  return placeOrder(w, eventId, order, 'staff', { buyerContactId });
}

/** Paying is money's. */
export const registrationHandlers: Omit<
  Handlers<typeof registrationContract & typeof guestsContract>,
  'POST /api/public/orders/:token/pay' | 'POST /api/public/orders/:token/pay/code'
> = {
  ...guestHandlers,

  'POST /api/events/:id/orders': async (c) => {
    await eventFor(c, c.params.id, 'registration', 'change');
    const { orderId, standing, total } = await registerFor(c, c, c.params.id, c.body);
    return { orderId, standing, total };
  },

  'POST /api/events/:id/orders/what-if': async (c) =>
    whatIf(c.app, c.actor, async (w) => {
      const by = { ...w, staff: c.staff };
      await eventFor(by, c.params.id, 'registration', 'change');
      const { standing, total } = await registerFor(by, w, c.params.id, c.body);
      return { standing, total };
    }),

  'GET /api/public/frame': async ({ tx, app, now }) => {
    const { name, about, currency, zone, country, clock } = await theOrganization(tx);
    return {
      organization: { name, about, currency, zone, country, clock, logo: await logoOf(tx, null) },
      today: dateOf(now, zone),
      demo: app.movable,
    };
  },

  'GET /api/public/events': async ({ app, tx, query, now, request }) =>
    listingFor(tx, query, now, await visitorOf({ app, tx }, request)),

  'GET /api/public/calendar.ics': async ({ app, tx, query, now }) =>
    new File('calendar.ics', await feedFor(app, tx, query, now), true),

  'GET /api/public/events/:slug': async (c) => {
    const event = await publicEventRow(c, c.params.slug, c.query.invited);
    const visitor =
      (await invitedVisitor(c.tx, c.query.invited, event.id)) ?? (await visitorOf(c, c.request));
    return publicEventOf(c.tx, event, c.now, await seriesShown(c, event), visitor);
  },

  'GET /api/public/previews/:token': async ({ tx, params, now }) => {
    const eventId = await followLink(tx, 'preview', params.token);
    if (!eventId) throw notFound('This preview');
    const event = await readEvent(tx, eventId);
    // What is shelved is hidden, from those with a link too.
    if (event.state === 'shelved') throw notFound('This preview');
    const page = await publicEventOf(tx, { ...event, slug: event.slug ?? '' }, now);
    // What is still a draft is shown as it would be once it is open.
    return shownToPublic.includes(event.state)
      ? page
      : { ...page, state: 'open', registration: page.registration === 'closed' ? 'open' : page.registration };
  },

  'GET /api/public/events/:slug/calendar.ics': async (c) => {
    const { app, now } = c;
    const event = await publicEventRow(c, c.params.slug);
    const entry = entryOf(event, {
      summary: event.publicTitle,
      description: event.summary,
      url: `${app.origin}/e/${event.slug}`,
      language: 'en',
    });
    if (!entry) throw notFound('A date');
    return new File(`${event.slug}.ics`, writeCalendar(event.publicTitle, [entry], now));
  },

  'POST /api/public/events/:slug/question': async (c) => {
    const event = await publicEventRow(c, c.params.slug);
    if (!event.organizer?.email || event.organizer.how !== 'form') throw notFound('This form');
    if (!isEmail(c.body.email)) throw invalid([{ path: 'email', code: 'not-an-email' }]);
    await record(c, 'organizer asked', { eventId: event.id, ...c.body });
    return { done: true };
  },

  'POST /api/public/events/:slug/code': async (c) => {
    const event = await publicEventRow(c, c.params.slug);
    return enterCode(c, event, c.body.code, await visitorOf(c, c.request), c.request.ip ?? '');
  },

  'POST /api/public/events/:slug/files': async (c) => {
    const event = await publicEventRow(c, c.params.slug);
    if (!takesRegistrations(event, c.now)) throw refused('registration-closed');
    if (!(await readQuestions(c.tx, event.id)).some((q) => q.kind === 'file')) throw notFound('This form');
    return keepAnswerFile(c, event.id, c.body.name, c.body.content);
  },

  'POST /api/public/events/:slug/orders': async (c) => {
    const event = await publicEventRow(c, c.params.slug, c.body.invited);
    if (c.body.code) demandTries(c, event.id, c.request.ip ?? '');
    return placeOrders(c, event, c.body, c.request.ip ?? null);
  },

  'GET /api/public/orders/:token': async (c) => {
    const { tx, params, now } = c;
    const orderId = await orderByLink(tx, params.token);
    const { buyerContactId } = await readOrder(tx, orderId);
    const mayKnow = await mayBeTold(c, c.request, { token: params.token, buyerContactId });
    return publicOrderOf(tx, orderId, now, mayKnow);
  },

  'POST /api/public/orders/:token/take': async (c) => ({
    standing: await takeSeats(c, await orderByLink(c.tx, c.params.token)),
  }),

  'POST /api/public/orders/:token/withdraw': async (c) => {
    const orderId = await orderByLink(c.tx, c.params.token);
    const event = await readEvent(c.tx, (await readOrder(c.tx, orderId)).eventId);
    if (event.startsAt && event.startsAt <= c.now) throw refused('begun');
    const { balance, kept } = await withdrawSeats(
      c,
      orderId,
      c.body.seats,
      'withdrawn by the registrant',
      'terms',
    );
    return { kept, owed: Math.max(0, -balance) };
  },

  'POST /api/public/orders/:token/withdraw/what-if': (c) =>
    whatIf(c.app, c.actor, async (w) => {
      const orderId = await orderByLink(w.tx, c.params.token);
      const before = Math.max(0, -(await readOrder(w.tx, orderId)).balance);
      const { balance, kept } = await withdrawSeats(w, orderId, c.body.seats, 'asked about', 'terms');
      return { kept, owed: Math.max(0, -balance) - before };
    }),

  'PATCH /api/public/orders/:token/seats/:seat': async (c) => {
    const { tx, params, body } = c;
    const orderId = await orderByLink(tx, params.token);
    const seat = (await readSeats(tx, orderId)).find((s) => s.id === params.seat);
    if (!seat) throw notFound('This seat');
    await nameSeat(c, await readOrder(tx, orderId), seat, body, 'whoever booked');
    await record(c, 'guest named', { eventId: seat.eventId, orderId, registrationId: seat.id });
    return { done: true };
  },

  'PUT /api/public/orders/:token/answers': async (c) => {
    const order = await readOrder(c.tx, await orderByLink(c.tx, c.params.token));
    await changeOrderAnswers(c, order, c.body.answers);
    return { done: true };
  },

  'GET /api/public/orders/:token/passes.pdf': async ({ tx, params }) => {
    const order = await readOrder(tx, await orderByLink(tx, params.token));
    const event = await readEvent(tx, order.eventId);
    const offers = await readOffers(tx, event.id);
    if (silentStates.includes(event.state)) throw refused('event-not-running');
    const seats = (await readSeats(tx, order.id)).filter((s) => s.state === 'confirmed' && s.passCode);
    if (!seats.length) throw refused('no-pass');
    const { name: organization } = await theOrganization(tx);
    const french = order.language === 'fr';
    const words = french
      ? { pass: 'Billet', order: 'commande', show: 'Montrez ce code à l’entrée, imprimé ou à l’écran.' }
      : { pass: 'Pass', order: 'order', show: 'Show this code at the door, printed or on a screen.' };
    const pdf = await passesPdf(
      seats.map((s) => ({
        organization,
        title: titleFor(event, order.language),
        afterwards: readTexts(event.afterwards, order.language),
        when: sayWhen(event, order.language),
        place: sayPlace(event, order.language),
        name:
          fullName({ given: s.givenName, family: s.familyName }) ||
          (french ? 'Place à nommer' : 'Guest to be named'),
        offer: offers.find((o) => o.id === s.offerId)?.name ?? '',
        code: s.passCode!,
        order: order.number,
        words,
      })),
    );
    return new File(`passes-${order.number}.pdf`, pdf, true);
  },

  'GET /api/public/orders/:token/calendar.ics': async ({ tx, params, now, app }) => {
    const order = await readOrder(tx, await orderByLink(tx, params.token));
    const event = await readEvent(tx, order.eventId);
    const url = `${app.origin}/m/${params.token}`;
    // Nothing says that somebody comes before they have a seat.
    if (!(await readSeats(tx, order.id)).some((s) => s.state === 'confirmed')) throw refused('no-pass');
    const entry = entryOf(event, {
      summary: titleFor(event, order.language),
      description: url,
      url,
      language: order.language,
    });
    if (!entry) throw notFound('A date');
    return new File(`${event.slug}.ics`, writeCalendar(event.publicTitle, [entry], now));
  },
};
