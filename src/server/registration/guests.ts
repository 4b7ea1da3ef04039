import type { GuestPage, guestsContract } from '#contract/guests.ts';
import { isEmail } from '#core/contacts/reach.ts';
import { offerIn } from '#core/events/french.ts';
import { lives, silentStates } from '#core/events/states.ts';
import { askedOfSeat } from '#core/questions/showing.ts';
import { namesUntil } from '#core/registration/namesUntil.ts';
import { standing } from '#core/registration/states.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { followLink, renewLink, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { type Queries, update } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { inShort } from '../events/saying.ts';
import { readEvent, readOffers } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { passShown } from '../print/code.ts';
import { theOrganization } from '../staff/store.ts';
import { signForSeats } from '../waivers/signing.ts';
import { readSigner, signingAt } from '../waivers/store.ts';
import { sentFrom } from '../waivers/telling.ts';
import { answersOf } from './answers.ts';
import { orderByLink } from './links.ts';
import { nameSeat } from './naming.ts';
import { asksAge, questionsShown } from './public.ts';
import { readOrder, readSeat, readSeats, type SeatRow } from './store.ts';

/** How often the guest of one seat is written to: nobody is pestered by somebody else's booking. */
const mostAsked = 4;

/** Writes to the guest of a seat, who fills it in by a link of their own. Another address takes the link from the one before. */
async function askGuest(w: Work, seat: SeatRow, email: string): Promise<void> {
  const address = email.trim();
  if (!isEmail(address)) throw invalid([{ path: 'email', code: 'not-an-email' }]);
  // Nobody is told of a seat that may never be theirs.
  if (seat.state !== 'confirmed')
    throw refused(standing.includes(seat.state) ? 'seat-not-confirmed' : 'seat-gone');
  const event = await readEvent(w.tx, seat.eventId);
  const until = namesUntil(event);
  if (!lives(event.state) || (until && until <= w.now)) throw refused('names-closed');
  if (seat.guestAsked >= mostAsked) throw refused('guest-asked-often', {}, 429);
  if (seat.guestEmail !== null && seat.guestEmail.toLowerCase() !== address.toLowerCase())
    await renewLink(w, 'seat', seat.id);
  await update(w.tx, 'registrations', seat.id, { guestEmail: address, guestAsked: seat.guestAsked + 1 });
  await record(w, 'guest asked', {
    eventId: seat.eventId,
    orderId: seat.orderId,
    registrationId: seat.id,
    email: address,
  });
}

/** The seat a guest's link leads to. */
async function seatByLink(tx: Queries, token: string): Promise<SeatRow> {
  const id = await followLink(tx, 'seat', token);
  if (!id) throw notFound('This seat');
  return readSeat(tx, id);
}

/** A seat as its guest sees it. Of whoever booked they learn a first name, and of the others nothing. */
async function guestPageOf(tx: Queries, seat: SeatRow, now: string): Promise<GuestPage> {
  const order = await readOrder(tx, seat.orderId);
  const event = await readEvent(tx, seat.eventId);
  const { ageOfMajority, zone } = await theOrganization(tx);
  const signing = await signingAt(tx, event, ageOfMajority, dateOf(now, zone), order.id);
  const given = await answersOf(tx, order.id);
  const seats = (await readSeats(tx, order.id)).filter((s) => standing.includes(s.state));
  const offers = await readOffers(tx, event.id);
  const offer = offers.find((o) => o.id === seat.offerId);
  const answers = seat.guestFilledAt ? (given.get(seat.id) ?? {}) : {};
  const questions = await questionsShown(tx, event.id);
  const form = { offerIds: seats.map((s) => s.offerId), answers: given.get(null) ?? {} };
  // What hangs on their own answers comes and goes with them; what hangs on the booking's is decided.
  const possible = new Set(
    askedOfSeat(
      questions.map((q) =>
        questions.some((x) => x.id === q.shownIf?.questionId && x.scope === 'attendee')
          ? { ...q, shownIf: null }
          : q,
      ),
      { offerId: seat.offerId, answers },
      form,
    ).map((q) => q.id),
  );
  const until = namesUntil(event);
  const silent = silentStates.includes(event.state);
  const { waiver, toSign, partly } = signing.of(seat);
  return {
    language: order.language,
    event: inShort(event, order.language),
    by: order.buyerGiven,
    offer: offer ? offerIn(offer, order.language).name : '',
    state: seat.state,
    given: seat.givenName,
    family: seat.familyName,
    hasBirthDate: seat.birthDate !== null,
    needsBirthDate: asksAge(event, offers, seat.offerId),
    questions: questions
      .filter((q) => possible.has(q.id))
      .map((q) => (q.shownIf && possible.has(q.shownIf.questionId) ? q : { ...q, shownIf: null })),
    answers,
    until: standing.includes(seat.state) && lives(event.state) && until && until > now ? until : null,
    filled: seat.guestFilledAt !== null,
    waiver,
    toSign,
    partly,
    waivers: signing.texts(toSign, order.language),
    pass:
      seat.state === 'confirmed' && seat.passCode && !silent && seat.givenName !== ''
        ? await passShown(seat.passCode)
        : null,
  };
}

export const guestHandlers: Handlers<typeof guestsContract> = {
  'POST /api/public/orders/:token/seats/:seat/guest': async (c) => {
    const orderId = await orderByLink(c.tx, c.params.token);
    const seat = (await readSeats(c.tx, orderId)).find((s) => s.id === c.params.seat);
    if (!seat) throw notFound('This seat');
    await askGuest(c, seat, c.body.email);
    return { done: true };
  },

  'GET /api/public/guests/:token': async ({ tx, params, now }) =>
    guestPageOf(tx, await seatByLink(tx, params.token), now),

  'PUT /api/public/guests/:token': async (c) => {
    const seat = await seatByLink(c.tx, c.params.token);
    const order = await readOrder(c.tx, seat.orderId);
    await nameSeat(c, order, seat, { ...c.body, answers: c.body.answers ?? {} }, 'guest');
    await update(c.tx, 'registrations', seat.id, { guestFilledAt: c.now });
    await record(c, 'guest named', { eventId: seat.eventId, orderId: order.id, registrationId: seat.id });
    return { done: true };
  },

  'POST /api/public/guests/:token/signature': async (c) => {
    const { id, guestEmail, orderId } = await seatByLink(c.tx, c.params.token);
    const seat = (await readSigner(c.tx, id))!;
    const { relation, answers, ...hand } = c.body;
    const { hashes } = await signForSeats(c, [{ ...seat, relation, answers }], hand, {
      ...sentFrom(c.request),
      way: 'link',
      // The link went to their own address.
      mayKnow: (contactId) => contactId === seat.contactId,
      signer: null,
      copyTo: guestEmail,
      language: (await readOrder(c.tx, orderId)).language,
    });
    return { sha256: hashes[0]! };
  },

  'PATCH /api/registrations/:id': async (c) => {
    const seat = await readSeat(c.tx, c.params.id);
    await eventFor(c, seat.eventId, 'registration', 'change');
    const order = await readOrder(c.tx, seat.orderId);
    await nameSeat(c, order, seat, c.body, 'staff');
    await record(c, 'guest named', { eventId: seat.eventId, orderId: order.id, registrationId: seat.id });
    return { done: true };
  },

  'POST /api/registrations/:id/guest': async (c) => {
    const seat = await readSeat(c.tx, c.params.id);
    await eventFor(c, seat.eventId, 'registration', 'change');
    await askGuest(c, seat, c.body.email);
    return { done: true };
  },
};
