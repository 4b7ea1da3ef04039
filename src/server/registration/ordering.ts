import type { z } from 'zod';
import type { orderBody } from '#contract/registration.ts';
import { fullName, tidyName } from '#core/contacts/names.ts';
import { passCode } from '#core/doors/passCode.ts';
import { accountOf } from '#core/money/account.ts';
import { fits } from '#core/registration/capacity.ts';
import { type PricedOrder, priceOrder } from '#core/registration/price.ts';
import { type AnswerValue, problemWith } from '#core/registration/questions.ts';
import { mayBecome, type RegistrationState, standing } from '#core/registration/states.ts';
import { offersFor } from '#core/registration/waitlist.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { readReach } from '../contacts/reach.ts';
import { first, insert, update } from '../db/database.ts';
import { type EventRow, readEvent, readOffers, readQuestions } from '../events/store.ts';
import { audit, openLink, type Work } from '../http/app.ts';
import { conflict, type FieldProblem, invalid } from '../http/problem.ts';
import { planDirect, sayPlace, sayWhen } from '../messages/direct.ts';
import { replan } from '../messages/planning.ts';
import { theOrganization } from '../staff/store.ts';
import { linkOrder } from './linkingOrder.ts';
import {
  type OrderRow,
  readMovements,
  readOrder,
  readSeats,
  readTaken,
  readWaiting,
  type SeatRow,
} from './store.ts';

/** Minutes a seat is kept while somebody pays. */
export const holdMinutes = 15;

export type OrderRequest = z.output<typeof orderBody>;

/** How an order came in. Staff may register after the public window closed, and let people pay later. */
export type Channel = 'public' | 'staff' | 'door';

export interface Placed {
  orderId: string;
  standing: 'held' | 'confirmed' | 'waitlisted';
  total: number;
}

/** True while the public may register: open, before the closing time and before the end. */
export function takesRegistrations(event: EventRow, now: string): boolean {
  if (event.state !== 'open') return false;
  if (event.registrationClosesAt && event.registrationClosesAt <= now) return false;
  const end = event.endsAt ?? event.startsAt;
  return !end || end > now;
}

/**
 * Places an order for a party: held while paying, confirmed at once when nothing is due, waitlisted when it does not
 * fit. The event row is locked, so that whoever arrives at the same moment is counted one after the other.
 */
export async function placeOrder(
  w: Work,
  eventId: string,
  request: OrderRequest,
  channel: Channel,
): Promise<Placed> {
  const { tx, app, now } = w;
  const event = await readEvent(tx, eventId, true);
  if (channel === 'public' && !takesRegistrations(event, now))
    throw conflict('registration-closed', 'Registration for this event is closed.');
  if (channel !== 'public' && !['open', 'closed'].includes(event.state))
    throw conflict('not-open', 'The event has to be open before anybody can be registered.');
  const offers = await readOffers(tx, eventId);
  const priced = priceOrder(offers, request.lines, request.donation.amount);
  if ('problems' in priced) throw invalid(priced.problems);
  const { order } = priced;
  const problems = await checkRequest(w, eventId, request, order, channel);
  if (problems.length) throw invalid(problems);

  const { email, phone } = readReach(request.buyer, (await theOrganization(tx)).country);
  const room = fits(order, event, await readTaken(tx, eventId));
  if (!room && !request.waitlist)
    throw conflict('full', 'There are no longer enough seats for your party. You can join the waitlist.');
  const payNow = channel === 'public' && order.total > 0;
  const state: RegistrationState = !room ? 'waitlisted' : payNow ? 'held' : 'confirmed';
  const orderId = app.ids.id();
  await insert(tx, 'orders', {
    id: orderId,
    number: (await first<{ n: number }>(tx, "select nextval('order_number')::int as n"))!.n,
    eventId,
    buyerGiven: tidyName(request.buyer.given),
    buyerFamily: tidyName(request.buyer.family),
    buyerEmail: email,
    buyerPhone: phone,
    language: request.language,
    due: order.total,
    donation: order.donation,
    donationFund: request.donation.fundId ?? (order.donation ? await generalFund(w) : null),
    donationAnonymous: request.donation.anonymous,
    lines: order.lines.map((l) => ({ offerId: l.offer.id, units: l.units })),
    seats: order.seats,
    state: 'open',
    placedAt: now,
    heldUntil: state === 'held' ? plusMinutes(now, holdMinutes) : null,
    waitlistedAt: state === 'waitlisted' ? now : null,
  });
  await insertSeats(w, orderId, eventId, request, order, state);
  await openLink(w, 'manage', orderId);
  if (state === 'confirmed') await confirmOrder(w, orderId, 'nothing to pay first');
  else if (state === 'waitlisted') {
    await linkOrder(w, await readOrder(tx, orderId));
    await tellBuyer(w, orderId, 'waitlisted', 'joined the waitlist');
  }
  await audit(w, 'placed an order', { kind: 'order', id: orderId }, { channel, state, seats: order.seats });
  announce(w, eventId);
  return { orderId, standing: state as Placed['standing'], total: order.total };
}

async function checkRequest(
  w: Work,
  eventId: string,
  request: OrderRequest,
  order: PricedOrder,
  channel: Channel,
): Promise<FieldProblem[]> {
  const problems: FieldProblem[] = [];
  const { country } = await theOrganization(w.tx);
  problems.push(...readReach(request.buyer, country, 'buyer.').problems);
  if (channel === 'public' && !request.buyer.email)
    problems.push({ path: 'buyer.email', message: 'Give an email address; the confirmation goes there.' });
  if (request.attendees.length > order.seats)
    problems.push({
      path: 'attendees',
      message: `There are ${order.seats} seats, and ${request.attendees.length} people were named.`,
    });
  const offerOfSeat = order.lines.flatMap((l) => Array<string>(l.seats).fill(l.offer.id));
  const questions = await readQuestions(w.tx, eventId);
  const language = request.language;
  const asQuestion = (q: (typeof questions)[number]) => ({ ...q, prompt: q.prompt[language] ?? q.prompt.en });
  for (const q of questions.filter((x) => x.scope === 'order')) {
    if (q.offerId && !offerOfSeat.includes(q.offerId)) continue;
    const message = problemWith(asQuestion(q), request.answers[q.id] as AnswerValue | undefined);
    if (message && channel !== 'door') problems.push({ path: `answers.${q.id}`, message });
  }
  request.attendees.forEach((attendee, seat) => {
    problems.push(...readReach(attendee, country, `attendees.${seat}.`).problems);
    if (attendee.birthDate && attendee.birthDate > w.now.slice(0, 10))
      problems.push({ path: `attendees.${seat}.birthDate`, message: 'This date is in the future.' });
    // Guests are named later, and asked then.
    if (!fullName(attendee)) return;
    for (const q of questions.filter(
      (x) => x.scope === 'attendee' && (!x.offerId || x.offerId === offerOfSeat[seat]),
    )) {
      const message = problemWith(asQuestion(q), attendee.answers[q.id] as AnswerValue | undefined);
      if (message && channel === 'public')
        problems.push({ path: `attendees.${seat}.answers.${q.id}`, message });
    }
  });
  const known = new Set(questions.map((q) => q.id));
  for (const id of [
    ...Object.keys(request.answers),
    ...request.attendees.flatMap((a) => Object.keys(a.answers)),
  ])
    if (!known.has(id)) problems.push({ path: `answers.${id}`, message: 'This question is not asked here.' });
  if (
    request.donation.fundId &&
    !(await first(w.tx, 'select 1 as x from funds where id = $1', [request.donation.fundId]))
  )
    problems.push({ path: 'donation.fundId', message: 'There is no such fund.' });
  return problems;
}

async function generalFund(w: Work): Promise<string> {
  const fund = await first<{ id: string }>(
    w.tx,
    "select id from funds order by (name = 'General') desc, name limit 1",
  );
  if (!fund) throw conflict('no-fund', 'There is no fund that a donation could go to.');
  return fund.id;
}

async function insertSeats(
  w: Work,
  orderId: string,
  eventId: string,
  request: OrderRequest,
  order: PricedOrder,
  state: RegistrationState,
): Promise<void> {
  const { app, now } = w;
  const seats = order.lines.flatMap((line) =>
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
      walkIn: false,
      linkReasons: [],
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
  await insert(w.tx, 'answers', [
    ...Object.entries(request.answers)
      .filter(([, v]) => v !== '')
      .map(([questionId, value]) => ({ id: app.ids.id(), orderId, registrationId: null, questionId, value })),
    ...rows.flatMap((row, at) =>
      Object.entries(request.attendees[at]?.answers ?? {})
        .filter(([, v]) => v !== '')
        .map(([questionId, value]) => ({
          id: app.ids.id(),
          orderId,
          registrationId: row.id,
          questionId,
          value,
        })),
    ),
  ]);
}

/** Moves seats to another state, each with its history. Refuses a change the states do not allow. */
export async function setSeats(
  w: Work,
  seats: readonly SeatRow[],
  to: RegistrationState,
  reason: string,
): Promise<void> {
  for (const seat of seats)
    if (seat.state !== to && !mayBecome(seat.state, to))
      throw conflict('seat-state', `A ${seat.state} seat cannot become ${to}.`);
  const ids = seats.filter((s) => s.state !== to).map((s) => s.id);
  if (!ids.length) return;
  await w.tx.query(
    `update registrations set state = $2,
       confirmed_at = case when $2 = 'confirmed' then $3::timestamptz else confirmed_at end,
       ended_at = case when $2 in ('withdrawn', 'declined', 'lapsed') then $3::timestamptz else null end where id = any($1)`,
    [ids, to, w.now],
  );
  await insert(
    w.tx,
    'registration_states',
    ids.map((registrationId) => ({ id: w.app.ids.id(), registrationId, state: to, at: w.now, reason })),
  );
}

/** Confirms what stands of an order: people become contacts, passes are made, messages planned, attendance expected. */
export async function confirmOrder(w: Work, orderId: string, reason: string): Promise<void> {
  const { tx, app } = w;
  const seats = (await readSeats(tx, orderId)).filter((s) => standing.includes(s.state));
  await setSeats(w, seats, 'confirmed', reason);
  await update(tx, 'orders', orderId, { heldUntil: null, waitlistedAt: null, offeredUntil: null });
  const order = await readOrder(tx, orderId);
  await linkOrder(w, order);
  for (const seat of seats)
    if (!seat.passCode) await update(tx, 'registrations', seat.id, { passCode: passCode(app.ids.bytes(12)) });
  await tx.query(
    `insert into attendance (registration_id, event_id, contact_id, state)
     select id, event_id, contact_id, 'expected' from registrations where order_id = $1 and state = 'confirmed' on conflict do nothing`,
    [orderId],
  );
  await refreshOrder(w, orderId);
  await replan(w, order.eventId, orderId);
  announce(w, order.eventId);
}

/** Works the order's account out again and keeps its state. Units nobody stands behind any more are no longer due. */
export async function refreshOrder(w: Work, orderId: string): Promise<{ balance: number }> {
  const { tx } = w;
  const order = await readOrder(tx, orderId);
  const seats = await readSeats(tx, orderId);
  const offers = await readOffers(tx, order.eventId);
  const live = seats.filter((s) => standing.includes(s.state));
  const units = new Set(live.map((s) => `${s.offerId} ${s.unitNumber}`));
  const price = [...units].reduce(
    (sum, unit) => sum + (offers.find((o) => o.id === unit.split(' ')[0])?.price ?? 0),
    0,
  );
  const movements = await readMovements(tx, orderId);
  const gave = movements.filter((m) => m.kind === 'donation').reduce((sum, m) => sum + m.amount, 0);
  const due = price + (live.length ? order.donation : Math.min(gave, order.donation));
  const account = accountOf(
    due,
    movements,
    live.length > 0 || gave > 0,
    live.some((s) => s.state === 'confirmed'),
  );
  await update(tx, 'orders', orderId, { due, state: account.state });
  return { balance: account.balance };
}

/** Gives seats up. Freed seats go to the waitlist at once. Money stays for the treasurer to pay back. */
export async function withdrawSeats(
  w: Work,
  orderId: string,
  seatIds: readonly string[],
  reason: string,
): Promise<{ balance: number; offered: string[] }> {
  const order = await readOrder(w.tx, orderId);
  const seats = (await readSeats(w.tx, orderId)).filter((s) => seatIds.includes(s.id));
  if (seats.length !== new Set(seatIds).size)
    throw invalid([{ path: 'seats', message: 'These seats do not all belong to this order.' }]);
  const came = await first(
    w.tx,
    "select 1 as x from attendance where registration_id = any($1) and state in ('arrived', 'left')",
    [seatIds],
  );
  if (came) throw conflict('already-in', 'Somebody who has arrived cannot withdraw.');
  await setSeats(w, seats, 'withdrawn', reason);
  await w.tx.query(
    "delete from attendance where registration_id = any($1) and state in ('expected', 'missed')",
    [seatIds],
  );
  const left = (await readSeats(w.tx, orderId)).filter((s) => standing.includes(s.state));
  if (!left.length)
    await update(w.tx, 'orders', orderId, { heldUntil: null, waitlistedAt: null, offeredUntil: null });
  const { balance } = await refreshOrder(w, orderId);
  await replan(w, order.eventId, orderId);
  await audit(w, 'withdrew seats', { kind: 'order', id: orderId }, { seats: seatIds.length, reason });
  const offered = await offerFreed(w, order.eventId);
  announce(w, order.eventId);
  return { balance, offered };
}

/** Offers whatever seats are free to the parties that wait, as the core decides. Answers their names. */
export async function offerFreed(w: Work, eventId: string): Promise<string[]> {
  const event = await readEvent(w.tx, eventId, true);
  if (!['open', 'closed'].includes(event.state) || !event.startsAt) return [];
  const waiting = await readWaiting(w.tx, eventId, await readOffers(w.tx, eventId));
  if (!waiting.length) return [];
  const offers = offersFor(waiting, event, await readTaken(w.tx, eventId), w.now, event.startsAt);
  for (const { party, until, passedOver } of offers)
    await offerTo(
      w,
      party.orderId,
      until,
      passedOver.length
        ? `first that fits; passed over ${passedOver.map((p) => `${p.party.name} (${p.why})`).join(', ')}`
        : 'first in the queue',
    );
  return offers.map((o) => o.party.name);
}

/** Offers seats to one waiting party until a deadline. */
export async function offerTo(w: Work, orderId: string, until: string, reason: string): Promise<void> {
  const seats = (await readSeats(w.tx, orderId)).filter((s) => s.state === 'waitlisted');
  await setSeats(w, seats, 'offered', `seats offered: ${reason}`);
  await update(w.tx, 'orders', orderId, { offeredUntil: until });
  await tellBuyer(w, orderId, 'offered', `a seat came free: ${reason}`, until);
}

/** Lets a hold or an offer that nobody took go, and offers the seats on. */
export async function lapse(w: Work, orderId: string, reason: string): Promise<void> {
  const order = await readOrder(w.tx, orderId);
  const seats = (await readSeats(w.tx, orderId)).filter((s) => s.state === 'held' || s.state === 'offered');
  await setSeats(w, seats, 'lapsed', reason);
  await update(w.tx, 'orders', orderId, { heldUntil: null, waitlistedAt: null, offeredUntil: null });
  await refreshOrder(w, orderId);
  if (order.offeredUntil) await tellBuyer(w, orderId, 'lapsed', reason);
  await offerFreed(w, order.eventId);
  announce(w, order.eventId);
}

/** Takes an offer: confirmed when nothing is due, else held while paying. */
export async function takeOffer(w: Work, orderId: string): Promise<'confirmed' | 'held'> {
  const order = await readOrder(w.tx, orderId);
  const seats = (await readSeats(w.tx, orderId)).filter((s) => s.state === 'offered');
  if (!seats.length || !order.offeredUntil || order.offeredUntil <= w.now)
    throw conflict('offer-gone', 'This offer is no longer open. The seats went to the next party.');
  if (order.due === 0) {
    await confirmOrder(w, orderId, 'took the offered seats');
    return 'confirmed';
  }
  await setSeats(w, seats, 'held', 'took the offered seats, paying');
  await update(w.tx, 'orders', orderId, {
    waitlistedAt: null,
    offeredUntil: null,
    heldUntil: plusMinutes(w.now, holdMinutes),
  });
  announce(w, order.eventId);
  return 'held';
}

async function tellBuyer(
  w: Work,
  orderId: string,
  kind: 'waitlisted' | 'offered' | 'lapsed',
  reason: string,
  until?: string,
): Promise<void> {
  const order: OrderRow = await readOrder(w.tx, orderId);
  const event = await readEvent(w.tx, order.eventId);
  const { name: organization } = await theOrganization(w.tx);
  const token = await openLink(w, 'manage', orderId);
  await planDirect(w, {
    kind,
    key: `${kind}:${orderId}:${until ?? w.now}`,
    to: {
      name: fullName({ given: order.buyerGiven, family: order.buyerFamily }),
      email: order.buyerEmail,
      contactId: order.buyerContactId,
      language: order.language,
    },
    eventId: event.id,
    reason,
    until: until ? { at: until, zone: event.zone } : undefined,
    values: {
      name: order.buyerGiven,
      event: event.publicTitle,
      when: sayWhen(event, order.language),
      place: sayPlace(event),
      organization,
      manage_link: `${w.app.origin}/m/${token}`,
    },
  });
}

/** Tells open pages, once the transaction is kept. */
export function announce(w: Work, eventId: string): void {
  w.afterwards(() => w.app.announcer.announce(`event ${eventId}`));
}
