import { orderBody } from '#contract/registration.ts';
import type { BroughtIn } from '#contract/seats.ts';
import { fold, fullName } from '#core/contacts/names.ts';
import { isEmail } from '#core/contacts/reach.ts';
import { standing } from '#core/registration/states.ts';
import type { Work } from '../app/app.ts';
import { among } from '../db/among.ts';
import { apart, type Queries } from '../db/database.ts';
import { answeredField, invalid, Problem } from '../http/problem.ts';
import { linkGuests, type readGuests } from '../registration/guestLists.ts';
import { placeOrder } from '../registration/ordering.ts';

/** People of one table at most; more are brought in by several. */
const mostRows = 500;

/** Who holds a seat of an event: by contact, and by name. */
async function holders(tx: Queries, eventId: string): Promise<{ ids: Set<string>; names: Set<string> }> {
  const rows = await tx.query<{ id: string | null; given: string; family: string }>(
    `select contact_id as id, given_name as given, family_name as family from registrations
     where event_id = $1 and state in ${among(standing)}`,
    [eventId],
  );
  return {
    ids: new Set(rows.flatMap((r) => (r.id ? [r.id] : []))),
    names: new Set(rows.map((r) => fold(fullName(r))).filter(Boolean)),
  };
}

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
  const there = await holders(w.tx, event.id);
  // A bare name can be told from nobody: where it has a seat here, it is taken for whoever has it.
  const isBare = (p: (typeof people)[number]) => !isEmail(p.email ?? '') && !p.phone && !p.birthDate;
  const known = people.filter((p) => isBare(p) && there.names.has(fold(fullName(p))));
  const toLink = people.filter((p) => !known.includes(p));
  const { contactIds, made } = await linkGuests(w, toLink, `registered for ${event.publicTitle}`);
  const seated = there.ids;
  const all: BroughtIn = {
    confirmed: 0,
    waitlisted: 0,
    already: known.map(fullName),
    made,
    total: 0,
    rejected: [...rejected],
  };
  for (const [at, person] of toLink.entries()) {
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
        email: isEmail(person.email ?? '') ? person.email! : '',
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
