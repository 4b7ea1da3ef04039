import type { Visitor } from '#core/access/visitor.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import { emailOf } from '../contacts/quiet.ts';
import type { Queries } from '../db/database.ts';
import type { OrderRequest } from './request.ts';

/** Somebody whom whoever is signed in may book for without a word typed. */
export interface OwnPerson {
  contactId: string;
  given: string;
  family: string;
  birthDate: string | null;
  /** Whoever is signed in, or a child they look after: of others of the household nobody is told when they were born. */
  theirs: boolean;
}

/**
 * Whoever is signed in, first, with the children they look after and the others of their household; of somebody who comes by a link
 * only themselves, and not when they were born.
 */
export const peopleOf = (
  tx: Queries,
  { contactId, byLink = false }: Pick<Visitor, 'contactId'> & { byLink?: boolean },
): Promise<OwnPerson[]> =>
  tx.query<OwnPerson>(
    `with theirs as (select to_contact as id from relationships where kind = 'guardian' and from_contact = $1 union select $1)
     select c.id as contact_id, c.given_name as given, c.family_name as family, c.birth_date::text as birth_date,
       c.id in (select id from theirs) and not $2 as theirs
     from contacts c where (c.id = $1 or not $2) and (c.id in (select id from theirs)
         or c.household_id = (select household_id from contacts where id = $1))
       and c.erased_at is null and c.merged_into is null and c.deceased_on is null and c.kind = 'person'
     order by (c.id = $1) desc, c.birth_date nulls first, c.id limit 30`,
    [contactId, byLink],
  );

/** The address that messages to somebody go to; null where they have none. */
export const addressOf = async (tx: Queries, contactId: string): Promise<string | null> =>
  (await tx.query<{ email: string | null }>(`select ${emailOf('$1')} as email`, [contactId]))[0]?.email ??
  null;

/**
 * The same order with the people that whoever is signed in picked, as they stand on record: nobody else's can be picked. A birth date
 * that is not on record is what was typed.
 */
export async function picked(
  tx: Queries,
  request: OrderRequest,
  visitor: Visitor | null,
): Promise<{ request: OrderRequest; problems: Wrong[] }> {
  if (!request.attendees.some((a) => a.contactId)) return { request, problems: [] };
  const people = visitor ? await peopleOf(tx, visitor) : [];
  const problems: Wrong[] = [];
  const seen = new Set<string>();
  const attendees = request.attendees.map((a, at) => {
    if (!a.contactId) return a;
    const person = people.find((p) => p.contactId === a.contactId);
    if (!person) problems.push(wrongAt(`attendees.${at}.given`, 'person-not-yours'));
    else if (seen.has(a.contactId)) problems.push(wrongAt(`attendees.${at}.given`, 'person-twice'));
    seen.add(a.contactId);
    return person
      ? { ...a, given: person.given, family: person.family, birthDate: person.birthDate ?? a.birthDate }
      : { ...a, contactId: null };
  });
  return { request: { ...request, attendees }, problems };
}
