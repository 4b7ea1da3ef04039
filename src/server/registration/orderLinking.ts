import { asDescribed } from '#core/contacts/match.ts';
import { fold, fullName } from '#core/contacts/names.ts';
import { isMinor } from '#core/waivers/needs.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import type { Work } from '../app/app.ts';
import { Arrivals } from '../contacts/arriving.ts';
import { linkArrival, linkBeside, setGuardian, type Teller } from '../contacts/linking.ts';
import { proposeGuardian, proposeOf } from '../contacts/proposals.ts';
import { peopleAround } from '../contacts/store.ts';
import { first, update } from '../db/database.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { theOrganization } from '../staff/store.ts';
import { keepAnswers } from './answers.ts';
import { type OrderRow, readSeats, type SeatRow, saveLinks } from './store.ts';

interface LinkedSeat {
  contactId: string;
  created: boolean;
  reasons: Reason[];
}

/** Everybody of one order while they are linked. */
interface Linking {
  w: Work;
  order: OrderRow;
  arrivals: Arrivals;
  buyerId: string;
  buyerIsNew: boolean;
  source: string;
  teller: Teller;
  /** Who sits on a seat of this order already: on another one sits somebody else, however alike their names. */
  seated: Map<string, SeatRow>;
  /** The people around the buyer, who may have no address of their own; read when somebody asks. */
  around(): Promise<ReadonlySet<string>>;
}

/**
 * Links everybody named in an order to a contact: the buyer first, then each seat. Somebody without an address of
 * their own is looked for among the people around the buyer, so that a child is known again next year without taking
 * over the parent's email. What an order from outside says of people we know changes nothing of their record: it is put
 * up for a decision. Done twice it changes nothing. Answers who the buyer is.
 */
export async function linkOrder(
  w: Work,
  order: OrderRow,
  known: { event?: EventRow; seats?: readonly SeatRow[] } = {},
): Promise<string> {
  const seats = known.seats ?? (await readSeats(w.tx, order.id));
  const toLink = seats.filter((s) => !s.contactId && fullName({ given: s.givenName, family: s.familyName }));
  if (order.buyerContactId && !toLink.length) return order.buyerContactId;
  const event = known.event ?? (await readEvent(w.tx, order.eventId));
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
  const arrivals = new Arrivals(w);
  await arrivals.lookUp([
    ...(order.buyerContactId ? [] : [asDescribed(buyer)]),
    ...toLink.map((seat) => asDescribed(seatPerson(seat, order))),
  ]);
  const linkedBuyer = order.buyerContactId
    ? { contactId: order.buyerContactId, created: false }
    : await linkArrival(w, arrivals, buyer, source, teller);
  const buyerId = linkedBuyer.contactId;
  let around: Promise<ReadonlySet<string>> | undefined;
  const linking: Linking = {
    w,
    order,
    arrivals,
    buyerId,
    buyerIsNew: linkedBuyer.created,
    source,
    teller,
    seated: new Map(seats.flatMap((s) => (s.contactId ? [[s.contactId, s] as const] : []))),
    around: () => {
      around ??= linkedBuyer.created ? Promise.resolve(new Set([buyerId])) : peopleAround(w.tx, buyerId);
      return around;
    },
  };
  let buyerSeated = seats.some((s) => s.contactId === buyerId);
  const linked = new Map<SeatRow, LinkedSeat>();
  for (const seat of toLink) {
    if (!buyerSeated && (await isBuyer(linking, seat))) {
      buyerSeated = true;
      linking.seated.set(buyerId, seat);
      linked.set(seat, {
        contactId: buyerId,
        created: linkedBuyer.created,
        reasons: [because('booked for themselves')],
      });
    } else {
      const to = await linkSeat(linking, seat);
      if (!linking.seated.has(to.contactId)) linking.seated.set(to.contactId, seat);
      linked.set(seat, to);
    }
  }
  await arrivals.write();
  if (!order.buyerContactId) await update(w.tx, 'orders', order.id, { buyerContactId: buyerId });
  await saveLinks(
    w.tx,
    [...linked].map(([seat, to]) => ({ id: seat.id, contactId: to.contactId, linkReasons: to.reasons })),
  );
  if (event.asksForRecord)
    await keepAnswers(
      w,
      order.id,
      [
        // Whoever booked answers once, when they are linked.
        ...(order.buyerContactId
          ? []
          : [
              { contactId: buyerId, created: linkedBuyer.created, registrationId: null },
              // Who was picked is known, and answered now.
              ...seats.flatMap((s) =>
                s.contactId ? [{ contactId: s.contactId, created: false, registrationId: s.id }] : [],
              ),
            ]),
        ...[...linked].map(([seat, to]) => ({ ...to, registrationId: seat.id })),
      ],
      teller,
      source,
    );
  const eventDate = (event.startsLocal ?? w.now).slice(0, 10);
  for (const [seat, to] of linked) {
    await keepBirthDate(linking, seat, to);
    const minor = isMinor({ birthDate: seat.birthDate, saidMinor: seat.saidMinor }, eventDate, ageOfMajority);
    if (to.contactId === buyerId || !minor) continue;
    // Two people nobody knew before may say what they are to one another; a record we have is not touched.
    if (teller === 'staff' || (to.created && linkedBuyer.created))
      await setGuardian(w, buyerId, to.contactId);
    else await proposeGuardian(w, buyerId, to.contactId, source);
  }
  return buyerId;
}

/** Who sits there: by an address of their own where they have one, else by that of whoever booked. */
const seatPerson = (seat: SeatRow, order: OrderRow) => ({
  given: seat.givenName,
  family: seat.familyName,
  birthDate: seat.birthDate,
  email: seat.guestEmail ?? order.buyerEmail,
});

/** The first seat in the buyer's own name is the buyer's, unless the birth dates say that it is a namesake's. */
async function isBuyer({ w, order, buyerId, buyerIsNew }: Linking, seat: SeatRow): Promise<boolean> {
  const seatName = fold(fullName({ given: seat.givenName, family: seat.familyName }));
  if (seatName !== fold(fullName({ given: order.buyerGiven, family: order.buyerFamily }))) return false;
  if (!seat.birthDate || buyerIsNew) return true;
  const known = await first<{ birthDate: string | null }>(
    w.tx,
    'select birth_date from contacts where id = $1',
    [buyerId],
  );
  return !known?.birthDate || known.birthDate === seat.birthDate;
}

/** Brings the birth date of a seat and of its contact together, as far as whoever said it may. */
async function keepBirthDate(
  { w, teller, source }: Linking,
  seat: SeatRow,
  linked: LinkedSeat,
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

/** Whether somebody who sits on one seat of an order may be meant on another one too: named just the same, and not born on another day. */
const mayBeSeatedAs = (there: SeatRow | undefined, seat: SeatRow): boolean =>
  !there ||
  (fold(fullName({ given: there.givenName, family: there.familyName })) ===
    fold(fullName({ given: seat.givenName, family: seat.familyName })) &&
    (!there.birthDate || !seat.birthDate || there.birthDate === seat.birthDate));

async function linkSeat(linking: Linking, seat: SeatRow): Promise<LinkedSeat> {
  const { w, order, arrivals, buyerId, source } = linking;
  const { buyerEmail } = order;
  const person = seatPerson(seat, order);
  if (seat.guestEmail) return linkArrival(w, arrivals, person, source, linking.teller);
  return linkBeside(
    w,
    arrivals,
    person,
    { contactId: buyerId, email: buyerEmail, around: await linking.around() },
    source,
    (contactId) => mayBeSeatedAs(linking.seated.get(contactId), seat),
  );
}
