import type { z } from 'zod';
import type { DoorRow, doorsContract } from '#contract/doors.ts';
import { fullName } from '#core/contacts/names.ts';
import { readReach } from '#core/contacts/reach.ts';
import { mayComeIn } from '#core/doors/verdict.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { identify } from '../contacts/linking.ts';
import { resolveContact } from '../contacts/store.ts';
import { type Queries, update } from '../db/database.ts';
import { type EventRow, readOffers } from '../events/store.ts';
import { invalid, refused } from '../http/problem.ts';
import { receive } from '../money/paying.ts';
import { type OwnPerson, peopleOf } from '../registration/household.ts';
import { placeOrder } from '../registration/ordering.ts';
import { readOrder, readSeats } from '../registration/store.ts';
import { theOrganization } from '../staff/store.ts';
import { mark } from './commands.ts';
import { doorRows } from './list.ts';
import { hasSeat } from './store.ts';

type WalkIn = z.output<(typeof doorsContract)['POST /api/events/:id/walk-ins']['body']>;

/** Who lives with somebody, or is looked after by them, and has no seat at an event yet. */
export async function peopleAlong(tx: Queries, eventId: string, contactId: string): Promise<OwnPerson[]> {
  const along: OwnPerson[] = [];
  for (const person of await peopleOf(tx, { contactId }))
    if (person.contactId !== contactId && !(await hasSeat(tx, eventId, person.contactId))) along.push(person);
  return along;
}

/**
 * Takes somebody in who did not register, with who comes along: an order of their own, paid in cash where it is, and an arrival for each whom
 * nothing keeps out.
 */
export async function letIn(
  w: Work,
  event: EventRow,
  body: WalkIn,
  sentAt?: string,
): Promise<{ registrationId: string; known: boolean; arrived: boolean; row: DoorRow; others: DoorRow[] }> {
  const { tx } = w;
  const { country } = await theOrganization(tx);
  const { email, phone, problems } = readReach(body, country);
  if (problems.length) throw invalid(problems);
  const picked = body.contactId ? await resolveContact(tx, body.contactId) : null;
  if (body.contactId && !picked) throw invalid([{ path: 'contactId', code: 'contact-gone' }]);
  const person = { given: body.given, family: body.family, email, phone, birthDate: body.birthDate };
  const decision = picked ? null : await identify(w, person);
  const known = picked ?? (decision?.outcome === 'same' ? decision.contactId : null);
  if (known) {
    if (await hasSeat(tx, event.id, known)) throw refused('has-seat', { name: fullName(body) });
  }
  const attendees = [
    { given: body.given, family: body.family, birthDate: body.birthDate, contactId: null as string | null },
    ...(await alongWith(tx, event, picked, body.others)),
  ];
  const each = (await readOffers(tx, event.id)).find((o) => o.id === body.offerId)?.seatsPerUnit ?? 1;
  const units = Math.ceil(attendees.length / each);
  // A table that is not full has places for guests to be named.
  const unnamed = Array.from({ length: units * each - attendees.length }, () => ({
    given: '',
    family: '',
    birthDate: null,
    contactId: null,
  }));
  const placed = await placeOrder(
    w,
    event.id,
    {
      buyer: { given: body.given, family: body.family, email: body.email, phone: body.phone },
      lines: [{ offerId: body.offerId, units, price: null }],
      extras: [],
      code: '',
      expects: null,
      from: '',
      invited: '',
      zone: '',
      attendees: [...attendees, ...unnamed].map((a) => ({ ...a, email: '', answers: {} })),
      answers: {},
      donation: { amount: 0, fundId: null, anonymous: false },
      language: 'en',
      waitlist: false,
    },
    'door',
    { buyerContactId: picked },
  );
  const order = await readOrder(tx, placed.orderId);
  if (body.paid && order.balance > 0)
    await receive(w, order, order.balance, 'cash', `cash, taken by ${w.actor.name}`);
  const rows: DoorRow[] = [];
  for (const seat of await readSeats(tx, placed.orderId)) {
    await update(tx, 'registrations', seat.id, { walkIn: true });
    if (!fullName({ given: seat.givenName, family: seat.familyName })) continue;
    // In at once where nothing is in the way; else they sign and pay, or are let in with a reason.
    const [row] = await doorRows(w, event, { now: w.now, registrationId: seat.id });
    if (!mayComeIn(row!, body.despite)) {
      rows.push(row!);
      continue;
    }
    await mark(w, seat.id, {
      eventId: event.id,
      state: 'arrived',
      despite: body.despite,
      at: body.at,
      sentAt,
      device: body.device,
    });
    rows.push((await doorRows(w, event, { now: w.now, registrationId: seat.id }))[0]!);
  }
  const [first, ...others] = rows as [DoorRow, ...DoorRow[]];
  return {
    registrationId: first.registrationId,
    known: known !== null && known !== undefined,
    arrived: first.attendance === 'arrived',
    row: first,
    others,
  };
}

/** Who comes along, with who they are and when they were born where they were picked. Only people around whoever was picked can be. */
async function alongWith(
  tx: Queries,
  event: EventRow,
  picked: string | null,
  others: WalkIn['others'],
): Promise<{ given: string; family: string; birthDate: string | null; contactId: string | null }[]> {
  const around = picked && others.some((o) => o.contactId) ? await peopleAlong(tx, event.id, picked) : [];
  const seen = new Set<string>();
  return others.map((other, at) => {
    if (!other.contactId) return other;
    const person = around.find((p) => p.contactId === other.contactId);
    if (!person) throw invalid([wrongAt(`others.${at}.given`, 'person-not-theirs')]);
    if (seen.has(person.contactId)) throw invalid([wrongAt(`others.${at}.given`, 'person-twice')]);
    seen.add(person.contactId);
    return {
      given: person.given,
      family: person.family,
      birthDate: person.birthDate ?? other.birthDate,
      contactId: person.contactId,
    };
  });
}
