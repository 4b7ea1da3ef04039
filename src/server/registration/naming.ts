import { fullName, tidyName } from '#core/contacts/names.ts';
import { isCorrection } from '#core/registration/naming.ts';
import { ageDecides } from '#core/waivers/needs.ts';
import type { Work } from '../app/app.ts';
import { refreshFound } from '../contacts/keys.ts';
import { proposeName, proposeOf } from '../contacts/proposals.ts';
import { first, update } from '../db/database.ts';
import { readEvent } from '../events/store.ts';
import { invalid, refused } from '../http/problem.ts';
import { linkOrder } from './orderLinking.ts';
import type { OrderRow, SeatRow } from './store.ts';
import { expectAttendance } from './store.ts';

/**
 * Names the guest of a seat, or corrects a name. A corrected spelling is the same person: birth date, guardian, signature
 * and contact stay. Another name is another person, linked anew; not once a waiver is signed for the one there was.
 */
export async function nameSeat(
  w: Work,
  order: OrderRow,
  seat: SeatRow,
  wanted: { given: string; family: string; birthDate: string | null },
): Promise<void> {
  const { tx, now } = w;
  if (!fullName(wanted)) throw invalid([{ path: 'given', code: 'name-needed' }]);
  const event = await readEvent(tx, seat.eventId);
  if (event.startsAt && event.startsAt <= now) throw refused('begun');
  if (wanted.birthDate && wanted.birthDate > now.slice(0, 10))
    throw invalid([{ path: 'birthDate', code: 'in-the-future' }]);
  const before = { given: seat.givenName, family: seat.familyName, birthDate: seat.birthDate };
  const after = { ...wanted, given: tidyName(wanted.given), family: tidyName(wanted.family) };
  const same = isCorrection(before, after);
  const birthDate = wanted.birthDate ?? (same ? seat.birthDate : null);
  if (ageDecides(event) && !birthDate) throw invalid([{ path: 'birthDate', code: 'birth-date-needed' }]);
  const signed = await first(
    tx,
    "select 1 as x from signatures where registration_id = $1 and state = 'valid'",
    [seat.id],
  );
  if (signed && (!same || birthDate !== seat.birthDate)) throw refused('name-signed');
  await update(tx, 'registrations', seat.id, {
    givenName: after.given,
    familyName: after.family,
    birthDate,
    ...(same ? {} : { contactId: null, linkReasons: [] }),
  });
  if (same && seat.contactId)
    await correct(w, seat.contactId, before, { ...after, birthDate }, event.publicTitle);
  else if (seat.state === 'confirmed' || seat.state === 'waitlisted') {
    await linkOrder(w, order);
    await expectAttendance(tx, order.id);
  }
}

/** Corrects the contact that this order alone made; what we know of somebody otherwise is put up for a decision. */
async function correct(
  w: Work,
  contactId: string,
  before: { given: string; family: string },
  after: { given: string; family: string; birthDate: string | null },
  title: string,
): Promise<void> {
  const source = `corrected on a booking for ${title}`;
  const made = await first<{ alone: boolean }>(
    w.tx,
    `select c.source like 'registered for %' and not exists (select 1 from orders where buyer_contact_id = c.id)
       and (select count(*) from registrations where contact_id = c.id) = 1
       and not exists (select 1 from assignments where contact_id = c.id)
       and not exists (select 1 from audit where subject_kind = 'contact' and subject_id = c.id) as alone
     from contacts c where c.id = $1`,
    [contactId],
  );
  if (made?.alone) {
    await update(w.tx, 'contacts', contactId, {
      givenName: after.given,
      familyName: after.family,
      ...(after.birthDate ? { birthDate: after.birthDate } : {}),
      updatedAt: w.now,
    });
    await refreshFound(w.tx, [contactId]);
    return;
  }
  await proposeName(w, contactId, before, after, source);
  await proposeOf(w, contactId, { birthDate: after.birthDate }, source);
}
