import { asDescribed, decide } from '#core/contacts/match.ts';
import { fold, fullName } from '#core/contacts/names.ts';
import { isMinor } from '#core/waivers/needs.ts';
import { createContact, linkPerson, setGuardian, type Teller } from '../contacts/linking.ts';
import { readMatching } from '../contacts/model.ts';
import { recordPair } from '../contacts/pairs.ts';
import { proposeGuardian, proposeOf } from '../contacts/proposals.ts';
import { candidatesFor } from '../contacts/store.ts';
import { first, update } from '../db/database.ts';
import { readEvent } from '../events/store.ts';
import type { Work } from '../http/app.ts';
import { theOrganization } from '../staff/store.ts';
import { type OrderRow, readSeats, type SeatRow } from './store.ts';

interface LinkedSeat {
  contactId: string;
  created: boolean;
  reasons: string[];
}

/**
 * Links everybody named in an order to a contact: the buyer first, then each seat. Somebody without an address of
 * their own is looked for among the people around the buyer, so that a child is known again next year without taking
 * over the parent's email. What an order from outside says of people we know changes nothing of their record: it is put
 * up for a decision. Done twice it changes nothing.
 */
export async function linkOrder(w: Work, order: OrderRow): Promise<void> {
  const event = await readEvent(w.tx, order.eventId);
  const { ageOfMajority } = await theOrganization(w.tx);
  const source = `registered for ${event.publicTitle}`;
  const teller: Teller = order.channel === 'public' ? 'outside' : 'staff';
  const buyer = {
    given: order.buyerGiven,
    family: order.buyerFamily,
    email: order.buyerEmail,
    phone: order.buyerPhone,
    language: order.language,
  };
  let buyerId = order.buyerContactId;
  let buyerIsNew = false;
  if (!buyerId) {
    const linked = await linkPerson(w, buyer, source, teller);
    buyerId = linked.contactId;
    buyerIsNew = linked.created;
    await update(w.tx, 'orders', order.id, { buyerContactId: buyerId });
  }
  const eventDate = (event.startsLocal ?? w.now).slice(0, 10);
  const seats = await readSeats(w.tx, order.id);
  let buyerSeated = seats.some((s) => s.contactId === buyerId);
  for (const seat of seats) {
    if (seat.contactId || !fullName({ given: seat.givenName, family: seat.familyName })) continue;
    let linked: LinkedSeat;
    if (!buyerSeated && (await isBuyer(w, seat, order, buyerId))) {
      buyerSeated = true;
      linked = { contactId: buyerId, created: buyerIsNew, reasons: ['booked for themselves'] };
    } else linked = await linkSeat(w, seat, buyerId, order.buyerEmail, source);
    await keepBirthDate(w, seat, linked, teller, source);
    await update(w.tx, 'registrations', seat.id, {
      contactId: linked.contactId,
      linkReasons: linked.reasons,
    });
    await w.tx.query('update attendance set contact_id = $2 where registration_id = $1', [
      seat.id,
      linked.contactId,
    ]);
    const minor = isMinor({ birthDate: seat.birthDate, saidMinor: seat.saidMinor }, eventDate, ageOfMajority);
    if (linked.contactId === buyerId || !minor) continue;
    // Two people nobody knew before may say what they are to one another; a record we have is not touched.
    if (teller === 'staff' || (linked.created && buyerIsNew)) await setGuardian(w, buyerId, linked.contactId);
    else await proposeGuardian(w, buyerId, linked.contactId, source);
  }
}

/** The first seat in the buyer's own name is the buyer's, unless the birth dates say that it is a namesake's. */
async function isBuyer(w: Work, seat: SeatRow, order: OrderRow, buyerId: string): Promise<boolean> {
  const seatName = fold(fullName({ given: seat.givenName, family: seat.familyName }));
  if (seatName !== fold(fullName({ given: order.buyerGiven, family: order.buyerFamily }))) return false;
  const known = await first<{ birthDate: string | null }>(
    w.tx,
    'select birth_date from contacts where id = $1',
    [buyerId],
  );
  return !seat.birthDate || !known?.birthDate || known.birthDate === seat.birthDate;
}

/** Brings the birth date of a seat and of its contact together, as far as whoever said it may. */
async function keepBirthDate(
  w: Work,
  seat: SeatRow,
  linked: LinkedSeat,
  teller: Teller,
  source: string,
): Promise<void> {
  if (seat.birthDate) {
    if (teller === 'staff' || linked.created)
      await w.tx.query('update contacts set birth_date = $2 where id = $1 and birth_date is null', [
        linked.contactId,
        seat.birthDate,
      ]);
    else await proposeOf(w, linked.contactId, { birthDate: seat.birthDate }, source);
  } else if (teller === 'staff')
    await w.tx.query(
      'update registrations r set birth_date = c.birth_date from contacts c where r.id = $1 and c.id = $2',
      [seat.id, linked.contactId],
    );
}

async function linkSeat(
  w: Work,
  seat: SeatRow,
  buyerId: string,
  buyerEmail: string | null,
  source: string,
): Promise<LinkedSeat> {
  const person = {
    given: seat.givenName,
    family: seat.familyName,
    birthDate: seat.birthDate,
    email: buyerEmail,
  };
  const around = new Set(
    (
      await w.tx.query<{ id: string }>(
        `select to_contact as id from relationships where from_contact = $1 and kind = 'guardian'
         union select o.id from contacts c join contacts o on o.household_id = c.household_id where c.id = $1 union select $1`,
        [buyerId],
      )
    ).map((r) => r.id),
  );
  const described = asDescribed(person);
  const candidates = (await candidatesFor(w.tx, [described])).map((c) =>
    around.has(c.id) && buyerEmail ? { ...c, emails: [...c.emails, buyerEmail] } : c,
  );
  const { model, careful } = await readMatching(w);
  const decision = decide(described, candidates, model, careful);
  if (decision.outcome === 'same')
    return { contactId: decision.contactId!, created: false, reasons: decision.reasons };
  const sameFamily =
    decision.householdOf === buyerId ||
    candidates.some((c) => c.id === buyerId && c.family === seat.familyName);
  const contactId = await createContact(w, { ...person, email: null }, source, {
    householdOf: sameFamily ? buyerId : null,
  });
  if (decision.outcome === 'look' && decision.verdict)
    await recordPair(w, contactId, decision.verdict, source);
  return {
    contactId,
    created: true,
    reasons:
      decision.outcome === 'look'
        ? ['made a new contact; may be one already known', ...decision.reasons]
        : ['new person', 'named by the buyer, no address of their own'],
  };
}
