import { asDescribed, type Decision, decide } from '#core/contacts/match.ts';
import { fullName, type PersonName, tidyName } from '#core/contacts/names.ts';
import { emailKey } from '#core/contacts/reach.ts';
import { first, insert, update } from '../db/database.ts';
import type { Work } from '../http/app.ts';
import { derived, keyRows, refreshFound } from './keys.ts';
import { readMatching } from './model.ts';
import { recordPair } from './pairs.ts';
import { proposeOf } from './proposals.ts';
import { candidatesFor } from './store.ts';

/** Somebody as they come in by a form: one email, one telephone. */
export interface NewPerson extends PersonName {
  email?: string | null;
  /** E.164. */
  phone?: string | null;
  birthDate?: string | null;
  street?: string | null;
  postalCode?: string | null;
  dietary?: string | null;
  language?: string;
  doNotContact?: boolean;
}

export interface Linked {
  contactId: string;
  created: boolean;
  reasons: string[];
}

/**
 * Who says something of a person. What staff say fills blanks of a record; what comes from outside, where anybody can
 * give anybody's name and email, is put up for a decision and changes nothing.
 */
export type Teller = 'staff' | 'outside';

/** Makes a contact with its email, telephone and household. */
export async function createContact(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  person: NewPerson,
  source: string,
  of: { householdOf?: string | null; importId?: string | null } = {},
): Promise<string> {
  const { tx, app, now } = w;
  const id = app.ids.id();
  const name = { given: tidyName(person.given), family: tidyName(person.family) };
  const householdId = of.householdOf ? await householdOf(w, of.householdOf) : null;
  const emails = person.email ? [person.email.trim()] : [];
  const phones = person.phone ? [person.phone] : [];
  await insert(tx, 'contacts', {
    id,
    givenName: name.given,
    familyName: name.family,
    birthDate: person.birthDate ?? null,
    language: person.language ?? 'en',
    street: person.street ?? null,
    postalCode: person.postalCode ?? null,
    dietary: person.dietary ?? null,
    doNotContact: person.doNotContact ?? false,
    householdId,
    ...derived({ ...name, emails, phones }),
    source,
    importId: of.importId ?? null,
    createdAt: now,
    updatedAt: now,
  });
  if (emails[0])
    await insert(tx, 'contact_emails', {
      id: app.ids.id(),
      contactId: id,
      email: emails[0],
      emailKey: emailKey(emails[0]),
      position: 0,
    });
  if (phones[0])
    await insert(tx, 'contact_phones', { id: app.ids.id(), contactId: id, phone: phones[0], position: 0 });
  await insert(tx, 'contact_keys', keyRows(id, asDescribed({ ...person, ...name })));
  return id;
}

/** The household of a contact, made when there is none. */
export async function householdOf(w: Pick<Work, 'tx' | 'app' | 'now'>, contactId: string): Promise<string> {
  const row = await first<{ householdId: string | null; familyName: string }>(
    w.tx,
    'select household_id, family_name from contacts where id = $1',
    [contactId],
  );
  if (row?.householdId) return row.householdId;
  const id = w.app.ids.id();
  await insert(w.tx, 'households', { id, name: row?.familyName ?? '', createdAt: w.now });
  await update(w.tx, 'contacts', contactId, { householdId: id });
  return id;
}

/** Decides who somebody is among the contacts, without changing anything. */
export async function identify(w: Pick<Work, 'tx' | 'app'>, person: NewPerson): Promise<Decision> {
  const { model, careful } = await readMatching(w);
  const described = asDescribed(person);
  return decide(described, await candidatesFor(w.tx, [described]), model, careful);
}

/**
 * Links a person to the contact they are, or makes one. Unsure means a new contact, and the pair is put up for a
 * decision: a wrong link is worse than a duplicate.
 */
export async function linkPerson(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  person: NewPerson,
  source: string,
  who: Teller,
): Promise<Linked> {
  const decision = await identify(w, person);
  if (decision.outcome === 'same') {
    if (who === 'staff') await fillBlanks(w, decision.contactId!, person);
    else await proposeOf(w, decision.contactId!, person, source);
    return { contactId: decision.contactId!, created: false, reasons: decision.reasons };
  }
  const contactId = await createContact(w, person, source, {
    householdOf: decision.householdOf,
  });
  if (decision.outcome === 'look' && decision.verdict)
    await recordPair(w, contactId, decision.verdict, source);
  const reasons =
    decision.outcome === 'look'
      ? [`made a new contact; ${fullName(person)} may be one already known`, ...decision.reasons]
      : decision.reasons;
  return { contactId, created: true, reasons };
}

/** Adds what a contact does not have yet; never changes what is there. */
async function fillBlanks(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  contactId: string,
  person: NewPerson,
): Promise<void> {
  const { tx, app } = w;
  if (person.birthDate)
    await tx.query('update contacts set birth_date = $2 where id = $1 and birth_date is null', [
      contactId,
      person.birthDate,
    ]);
  const before = await tx.query('select 1 from contact_emails where contact_id = $1 limit 1', [contactId]);
  if (person.email && !before.length)
    await insert(tx, 'contact_emails', {
      id: app.ids.id(),
      contactId,
      email: person.email.trim(),
      emailKey: emailKey(person.email),
      position: 0,
    });
  if (person.phone)
    await insert(
      tx,
      'contact_phones',
      { id: app.ids.id(), contactId, phone: person.phone, position: 9 },
      'on conflict do nothing',
    );
  await refreshFound(tx, [contactId]);
}

/** Says that one contact looks after another; said twice it stays one. Both come into one household. */
export async function setGuardian(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  guardianId: string,
  childId: string,
): Promise<void> {
  if (guardianId === childId) return;
  await insert(
    w.tx,
    'relationships',
    { id: w.app.ids.id(), kind: 'guardian', fromContact: guardianId, toContact: childId, createdAt: w.now },
    'on conflict do nothing',
  );
  const householdId = await householdOf(w, guardianId);
  await w.tx.query('update contacts set household_id = $2 where id = $1 and household_id is null', [
    childId,
    householdId,
  ]);
}
