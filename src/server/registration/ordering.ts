import type { Extra, Offer } from '#contract/plan.ts';
import type { Visitor } from '#core/access/visitor.ts';
import { tidyName } from '#core/contacts/names.ts';
import { readReach } from '#core/contacts/reach.ts';
import { passCode } from '#core/doors/passCode.ts';
import { isOver } from '#core/events/end.ts';
import { offerIn } from '#core/events/french.ts';
import { lives } from '#core/events/states.ts';
import { accountOf } from '#core/money/lines.ts';
import { codeNamed } from '#core/offers/offer.ts';
import { type Asking, type Quote, quote, type Shop } from '#core/offers/quote.ts';
import type { Taken } from '#core/registration/capacity.ts';
import {
  answerTo,
  freeExtras,
  limitsOf,
  mostUnpaid,
  shortOf,
  shortProblem,
  unlimited,
} from '#core/registration/capacity.ts';
import type { Channel } from '#core/registration/checking.ts';
import type { RegistrationState } from '#core/registration/states.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { zoneOrNone } from '#core/time/wallTime.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import { because } from '#core/words/reasons.ts';
import { openLink, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { asVisitor } from '../contacts/visitor.ts';
import { first, insert } from '../db/database.ts';
import { keyedHash } from '../db/ids.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { invalid, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { admittedAt, opensNow } from './admitting.ts';
import { languageIn, writeAnswers } from './answers.ts';
import { askingOf, shopOf, wantedOf } from './asking.ts';
import { checkRequest } from './checking.ts';
import { confirmOrder } from './confirming.ts';
import { picked } from './household.ts';
import { linkOrder } from './orderLinking.ts';
import type { OrderRequest } from './request.ts';
import { sourceNamed } from './sources.ts';
import { readOrder, readTaken } from './store.ts';
import { countTry } from './tries.ts';
import { holdMinutes } from './waiting.ts';

export interface Placed {
  orderId: string;
  /** Of the buyer's personal link. */
  token: string;
  standing: 'asked' | 'held' | 'confirmed' | 'waitlisted';
  total: number;
}

/** True while the public may register: open, before the closing time and before the end. */
export function takesRegistrations(
  event: Pick<EventRow, 'state' | 'registrationClosesAt' | 'startsAt' | 'endsAt'>,
  now: string,
): boolean {
  if (event.state !== 'open') return false;
  if (event.registrationClosesAt && event.registrationClosesAt <= now) return false;
  return !isOver(event, now);
}

/** What an offer that is short is called to a reader. */
function nameOfShort(offers: readonly Offer[], offerId: string | null, language: 'en' | 'fr'): string {
  const offer = offers.find((o) => o.id === offerId);
  return offer ? offerIn(offer, language).name : '';
}

/**
 * Places an order for a party: held while paying, confirmed at once when nothing is due, waitlisted when it does not
 * fit. The event row is locked, so that whoever arrives at the same moment is counted one after the other.
 */
export async function placeOrder(
  w: Work,
  eventId: string,
  asked: OrderRequest,
  channel: Channel,
  {
    buyerContactId = null,
    address = null,
    visitor = null,
  }: {
    /** The contact that buys, where it was picked. */
    buyerContactId?: string | null;
    /** From where it is asked, when from outside. */
    address?: string | null;
    /** Who asks, where they are signed in. */
    visitor?: Visitor | null;
  } = {},
): Promise<Placed> {
  const { tx, app, now } = w;
  const event = await readEvent(tx, eventId, true);
  // Whoever the team books for pays what they would by themselves, and brings along whom they could.
  const payer = visitor ?? (buyerContactId ? await asVisitor(tx, buyerContactId) : null);
  const { request, problems: notTheirs } = await picked(tx, asked, payer);
  if (channel === 'public' && event.registerAt)
    throw refused('registers-elsewhere', { address: event.registerAt });
  if (channel === 'public' && !takesRegistrations(event, now)) throw refused('registration-closed');
  if (channel !== 'public' && !lives(event.state)) throw refused('not-open');
  const { country } = await theOrganization(tx);
  const shop = await shopOf(tx, event);
  if (address !== null && request.code && !codeNamed(shop.codes, request.code)) countTry(w, eventId, address);
  const asking = await askingOf(w, event, payer, channel, request.code !== '');
  const place = channel === 'public' ? await demandAdmission(w, event, visitor, request, shop, asking) : null;
  const priced = quote(shop, wantedOf(request), { ...asking, guest: place?.guest ?? 0 });
  if ('problems' in priced) throw invalid(priced.problems);
  const order = priced.quote;
  if (request.expects !== null && request.expects !== order.total)
    throw refused('price-changed', { now: { amount: order.total, currency: shop.currency } });
  const taken = await readTaken(tx, eventId);
  const checked = await checkRequest(w, event, request, order, channel);
  const { kept, questions } = checked;
  const problems = [...notTheirs, ...checked.problems, ...shortExtras(shop.extras, request.extras, taken)];
  if (problems.length) throw invalid(problems);

  const { email, phone } = readReach(request.buyer, country);
  const party = { lines: order.parties, seats: order.seats };
  // Whoever has a seat beyond the others still has one of an offer that is left.
  const limits = place?.overCapacity ? unlimited : limitsOf(event);
  const short = shortOf(party, limits, taken);
  const room = short === null;
  // Whoever only asks takes no room: whether there is some is looked at when they are accepted.
  const asks = channel === 'public' && event.admission.accepts;
  const full = () =>
    refused(
      'full',
      {},
      409,
      short ? [shortProblem(short, nameOfShort(shop.offers, short.offerId, request.language))] : [],
    );
  if (!room && !request.waitlist && !asks) throw full();
  if (!room && channel === 'public' && !asks) {
    const answer = answerTo(party, event.whenFull, shop.offers, limits, taken);
    if (answer === 'turn away') throw full();
    if (answer === 'online') throw refused('full-online-left');
  }
  const payNow = channel === 'public' && order.dueNow > 0;
  const state: RegistrationState = asks ? 'asked' : !room ? 'waitlisted' : payNow ? 'held' : 'confirmed';
  // Seats that are paid later are taken without paying, too.
  const unpaid = state === 'held' || (state === 'confirmed' && order.total > 0);
  const heldFrom = unpaid && address ? keyedHash(app.secret, address) : null;
  if (heldFrom) await demandFairShare(w, event, order.seats, heldFrom);
  const orderId = app.ids.id();
  const fundId = order.donation ? (request.donation.fundId ?? event.giftFunds[0]!) : null;
  const lines = linesOf(w, orderId, order, fundId);
  // Nobody has to reckon it again before something changes.
  const account = accountOf(
    lines.map((line) => ({ ...line, live: true })),
    [],
    state === 'confirmed',
  );
  await insert(tx, 'orders', {
    id: orderId,
    number: (await first<{ n: number }>(tx, "select nextval('order_number')::int as n"))!.n,
    eventId,
    buyerContactId,
    placedBy: visitor?.contactId ?? null,
    buyerGiven: tidyName(request.buyer.given),
    buyerFamily: tidyName(request.buyer.family),
    buyerEmail: email,
    buyerPhone: phone,
    language: languageIn(questions, kept.answers) ?? request.language,
    zone: zoneOrNone(request.zone),
    currency: shop.currency,
    due: account.due,
    balance: account.balance,
    donation: order.donation,
    donationFund: fundId,
    donationAnonymous: request.donation.anonymous,
    dueNow: order.dueNow < order.total ? order.dueNow : null,
    codeId: order.codeId,
    sourceId: channel === 'public' ? await sourceNamed(tx, eventId, request.from) : null,
    lines: order.parties.map((l) => ({ offerId: l.offer.id, units: l.units })),
    seats: order.seats,
    state: account.state,
    channel,
    placedAt: now,
    heldUntil: state === 'held' ? plusMinutes(now, holdMinutes) : null,
    waitlistedAt: state === 'waitlisted' ? now : null,
    askedAt: state === 'asked' ? now : null,
    heldFrom,
  });
  const seatIds = await insertSeats(w, orderId, eventId, kept, order, state);
  await writeAnswers(w, orderId, eventId, questions, [
    { registrationId: null, answers: kept.answers },
    ...kept.attendees.flatMap(({ answers }, at) =>
      seatIds[at] ? [{ registrationId: seatIds[at], answers }] : [],
    ),
  ]);
  await insert(tx, 'order_lines', lines);
  const token = await openLink(w, 'manage', orderId, 'new');
  // Whoever waits is a contact already; the others become one with their seat.
  if (state === 'waitlisted' || state === 'asked')
    await linkOrder(w, await readOrder(tx, orderId), { event });
  await record(w, 'order placed', { eventId, orderId, channel, state, seats: order.seats });
  if (state === 'confirmed') await confirmOrder(w, orderId, 'nothing to pay first', { event });
  return { orderId, token, standing: state as Placed['standing'], total: order.total };
}

/** Refused where somebody of the public may not register now; else what a guest list gives them. */
async function demandAdmission(
  w: Work,
  event: EventRow,
  visitor: Visitor | null,
  request: OrderRequest,
  shop: Pick<Shop, 'codes' | 'offers'>,
  asking: Asking,
): Promise<{ guest: number; overCapacity: boolean }> {
  if (event.admission.noReply) throw refused('no-reply-needed');
  const { admitted, guest, most } = await admittedAt(w, event, visitor, opensNow(shop, request.code, asking));
  if (!('in' in admitted)) throw refused('not-admitted', {}, 403);
  const seats = request.lines.reduce(
    (sum, l) => sum + l.units * (shop.offers.find((o) => o.id === l.offerId)?.seatsPerUnit ?? 1),
    0,
  );
  if (most !== null && seats > most)
    throw invalid([wrongAt('lines.0.units', most ? 'invited-for' : 'invited-used', { count: most })]);
  return { guest, overCapacity: admitted.in.overCapacity };
}

/**
 * Refuses when one address would hold more seats unpaid than its share. What it let lapse within the hour counts too,
 * so that holding again and again keeps nobody out.
 */
async function demandFairShare(w: Work, event: EventRow, seats: number, heldFrom: string): Promise<void> {
  if (!w.app.fairShare) return;
  const most = mostUnpaid(limitsOf(event).capacity);
  const before = await first<{ n: number }>(
    w.tx,
    `select coalesce(sum(seats), 0)::int as n from orders
     where held_from = $1 and event_id = $2 and received = 0 and placed_at > $3`,
    [heldFrom, event.id, plusMinutes(w.now, -60)],
  );
  if (before!.n + seats > most) throw refused('too-many-unpaid', { count: most }, 429);
}

/** What was agreed, written down once: every unit at what it costs by now, and the gift. */
function linesOf(w: Work, orderId: string, order: Quote, fundId: string | null) {
  const units = order.units.map((unit) => ({
    kind: unit.of,
    offerId: unit.of === 'seats' ? unit.id : null,
    extraId: unit.of === 'extra' ? unit.id : null,
    optionId: unit.optionId,
    unitNumber: unit.unitNumber as number | null,
    fundId: null as string | null,
    unitPrice: unit.price,
    discount: unit.discount,
    tax: unit.tax,
    taxIncluded: unit.taxIncluded,
  }));
  const gift = order.donation
    ? [
        {
          kind: 'gift' as const,
          offerId: null,
          extraId: null,
          optionId: null,
          unitNumber: null,
          fundId,
          unitPrice: order.donation,
          discount: 0,
          tax: 0,
          taxIncluded: 0,
        },
      ]
    : [];
  return [...units, ...gift].map((line, position) => ({
    id: w.app.ids.id(),
    orderId,
    position,
    ...line,
    writtenAt: w.now,
  }));
}

/** Extras of which there are not as many left as are wanted, each with how many there are. */
function shortExtras(extras: readonly Extra[], wanted: OrderRequest['extras'], taken: Taken): Wrong[] {
  const before = new Map<string, number>(taken.extras);
  return wanted.flatMap(({ extraId, optionId, units }, at) => {
    const extra = extras.find((e) => e.id === extraId)!;
    const left = freeExtras(extra, optionId, { ...taken, extras: before });
    for (const id of [extraId, optionId]) if (id) before.set(id, (before.get(id) ?? 0) + units);
    return left !== null && units > left
      ? [wrongAt(`extras.${at}.units`, 'extra-short', { name: extra.name, left })]
      : [];
  });
}

async function insertSeats(
  w: Work,
  orderId: string,
  eventId: string,
  request: OrderRequest,
  order: Quote,
  state: RegistrationState,
): Promise<string[]> {
  const { app, now } = w;
  const seats = order.parties.flatMap((line) =>
    Array.from({ length: line.seats }, (_, n) => ({
      offerId: line.offer.id,
      unitNumber: Math.floor(n / line.offer.seatsPerUnit) + 1,
    })),
  );
  const rows = seats.map((seat, at) => {
    const attendee = request.attendees[at];
    return {
      id: app.ids.id(),
      orderId,
      eventId,
      ...seat,
      seatNumber: at + 1,
      givenName: tidyName(attendee?.given ?? ''),
      familyName: tidyName(attendee?.family ?? ''),
      birthDate: attendee?.birthDate ?? null,
      saidMinor: false,
      state,
      passCode: state === 'confirmed' ? passCode(app.ids.bytes(12)) : null,
      walkIn: false,
      contactId: attendee?.contactId ?? null,
      linkReasons: attendee?.contactId ? [because('picked from the household')] : [],
      createdAt: now,
      confirmedAt: state === 'confirmed' ? now : null,
    };
  });
  await insert(w.tx, 'registrations', rows);
  await insert(
    w.tx,
    'registration_states',
    rows.map((r) => ({ id: app.ids.id(), registrationId: r.id, state, at: now, reason: 'registered' })),
  );
  return rows.map((r) => r.id);
}
