import { orderBody } from '#contract/registration.ts';
import type { BroughtIn } from '#contract/seats.ts';
import { fullName } from '#core/contacts/names.ts';
import { standing } from '#core/registration/states.ts';
import type { Work } from '../app/app.ts';
import { among } from '../db/among.ts';
import { apart, type Queries } from '../db/database.ts';
import { answeredField, invalid, Problem } from '../http/problem.ts';
import { linkGuests, type readGuests } from '../registration/guestLists.ts';
import { placeOrder } from '../registration/ordering.ts';

/** People of one table at most; more are brought in by several. */
const mostRows = 500;

const holders = async (tx: Queries, eventId: string): Promise<Set<string>> =>
  new Set(
    (
      await tx.query<{ id: string }>(
        `select distinct contact_id as id from registrations where event_id = $1 and contact_id is not null and state in ${among(standing)}`,
        [eventId],
      )
    ).map((r) => r.id),
  );

/**
 * Registers the people of a table, each with a booking of their own, as the contact they are: whoever holds a seat already is passed
 * over, so that the same table twice registers nobody twice. A row that cannot be is told with why, and the others are registered.
 */
export async function bringIn(
  w: Work,
  event: { id: string; publicTitle: string },
  { people, rejected }: Awaited<ReturnType<typeof readGuests>>,
  offerId: string,
): Promise<BroughtIn> {
  if (people.length > mostRows)
    throw invalid([{ path: 'content', code: 'too-many-people', params: { count: mostRows } }]);
  const { contactIds, made } = await linkGuests(w, people, `registered for ${event.publicTitle}`);
  const seated = await holders(w.tx, event.id);
  const all: BroughtIn = {
    confirmed: 0,
    waitlisted: 0,
    already: [],
    made,
    total: 0,
    rejected: [...rejected],
  };
  for (const [at, person] of people.entries()) {
    const contactId = contactIds[at]!;
    const { given, family } = person;
    if (seated.has(contactId)) {
      all.already.push(fullName(person));
      continue;
    }
    seated.add(contactId);
    const request = orderBody.parse({
      // Of somebody with one name, that is the last one.
      buyer: {
        given: given || family,
        family: family || given,
        email: person.email ?? '',
        phone: person.phone ?? '',
      },
      lines: [{ offerId, units: 1 }],
      attendees: [{ given: given || family, family: family || given, birthDate: person.birthDate }],
    });
    try {
      const placed = await apart(w.tx, () =>
        placeOrder(w, event.id, request, 'staff', { buyerContactId: contactId }),
      );
      if (placed.standing === 'waitlisted') all.waitlisted += 1;
      else all.confirmed += 1;
      all.total += placed.total;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      const [field] = error.fields;
      all.rejected.push({ line: person.line, why: field ? answeredField(field).message : error.title });
    }
  }
  return { ...all, rejected: all.rejected.slice(0, 50) };
}
