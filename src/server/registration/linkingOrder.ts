import { asDescribed, decide } from '#core/contacts/match.ts';
import { fullName } from '#core/contacts/names.ts';
import { isMinor } from '#core/waivers/needs.ts';
import { createContact, linkPerson, setGuardian } from '../contacts/linking.ts';
import { readMatching } from '../contacts/model.ts';
import { recordPair } from '../contacts/pairs.ts';
import { candidatesFor } from '../contacts/store.ts';
import { update } from '../db/database.ts';
import { readEvent } from '../events/store.ts';
import type { Work } from '../http/app.ts';
import { theOrganization } from '../staff/store.ts';
import { type OrderRow, readSeats, type SeatRow } from './store.ts';

/**
 * Links everybody named in an order to a contact: the buyer first, then each seat. Somebody without an address of
 * their own is looked for among the people around the buyer, so that a child is known again next year without taking
 * over the parent's email. Children get the buyer as guardian. Done twice it changes nothing.
 */
export async function linkOrder(w: Work, order: OrderRow): Promise<void> {
  const event = await readEvent(w.tx, order.eventId);
  const { ageOfMajority } = await theOrganization(w.tx);
  const source = `registered for ${event.publicTitle}`;
  const buyer = {
    given: order.buyerGiven,
    family: order.buyerFamily,
    email: order.buyerEmail,
    phone: order.buyerPhone,
    language: order.language,
  };
  let buyerId = order.buyerContactId;
  if (!buyerId) {
    buyerId = (await linkPerson(w, buyer, source)).contactId;
    await update(w.tx, 'orders', order.id, { buyerContactId: buyerId });
  }
  const eventDate = (event.startsLocal ?? w.now).slice(0, 10);
  for (const seat of await readSeats(w.tx, order.id)) {
    if (seat.contactId || !fullName({ given: seat.givenName, family: seat.familyName })) continue;
    const linked = await linkSeat(w, seat, buyerId, order.buyerEmail, source);
    await update(w.tx, 'registrations', seat.id, {
      contactId: linked.contactId,
      linkReasons: linked.reasons,
    });
    await w.tx.query('update attendance set contact_id = $2 where registration_id = $1', [
      seat.id,
      linked.contactId,
    ]);
    if (
      linked.contactId !== buyerId &&
      isMinor({ birthDate: seat.birthDate, saidMinor: seat.saidMinor }, eventDate, ageOfMajority)
    )
      await setGuardian(w, buyerId, linked.contactId);
  }
}

async function linkSeat(
  w: Work,
  seat: SeatRow,
  buyerId: string,
  buyerEmail: string | null,
  source: string,
): Promise<{ contactId: string; reasons: string[] }> {
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
  if (decision.outcome === 'same') {
    if (seat.birthDate)
      await w.tx.query('update contacts set birth_date = $2 where id = $1 and birth_date is null', [
        decision.contactId,
        seat.birthDate,
      ]);
    return { contactId: decision.contactId!, reasons: decision.reasons };
  }
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
    reasons:
      decision.outcome === 'look'
        ? ['made a new contact; may be one already known', ...decision.reasons]
        : ['new person', 'named by the buyer, no address of their own'],
  };
}
