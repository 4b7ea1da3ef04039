import { attributes, isText } from '#core/contacts/attributes.ts';
import { startOf } from '#core/contacts/membership.ts';
import { fold } from '#core/contacts/names.ts';
import { emailKey } from '#core/contacts/reach.ts';
import type { Change } from '#core/imports/importing.ts';
import { type EmergencyContact, type Membership, type PersonRow, sayMembership } from '#core/imports/rows.ts';
import { instantOf } from '#core/time/wallTime.ts';
import type { Work } from '../app/app.ts';
import { setValue } from '../contacts/fields.ts';
import { first, insert, update } from '../db/database.ts';

/** What applying a row did, kept so that it can be taken back. */
export interface Applied {
  created?: string;
  /** Organizations that were not known before. */
  organizations?: string[];
  changes?: Done[];
}
/** One field set, or one row added. */
export interface Done {
  contactId: string;
  /** A column of the contact, with what it was and what it became. */
  column?: string;
  before?: unknown;
  after?: unknown;
  /** A row of a table that was added, or, with a column, one of which a column was set. */
  table?: string;
  id?: string;
  tag?: string;
}

export const membershipRow = (contactId: string, { until, ...m }: Membership, now: string) => ({
  contactId,
  ...m,
  startsOn: startOf(m.since),
  endsOn: until,
  createdAt: now,
});
export const emailRow = (person: PersonRow, email: string, position: number) => ({
  email,
  emailKey: emailKey(email),
  kind: person.kinds[email] ?? '',
  position,
});
export const phoneRow = (person: PersonRow, phone: string, position: number) => ({
  phone,
  kind: person.kinds[phone] ?? '',
  position,
});
export const emergencyRow = (contactId: string, e: EmergencyContact, now: string) => ({
  kind: 'emergency',
  toContact: contactId,
  otherName: e.name,
  otherPhone: e.phone,
  createdAt: now,
});
export const consentRow = (
  contactId: string,
  n: NonNullable<PersonRow['newsletter']>,
  source: string,
  now: string,
  zone: string,
) => ({
  contactId,
  topic: 'newsletter',
  granted: n.granted,
  source,
  at: n.on ? instantOf(`${n.on}T12:00`, zone) : now,
});

/** Does one change to a contact that is known, and says what was done. */
export async function applyChange(
  w: Work,
  contactId: string,
  person: PersonRow,
  change: Change,
  source: string,
  zone: string,
  organizations: ReadonlyMap<string, string>,
): Promise<Done[]> {
  const { tx, app, now } = w;
  const set = async (values: Record<string, unknown>): Promise<Done[]> => {
    const columns = Object.keys(values);
    const before = (await first<Record<string, unknown>>(
      tx,
      `select ${columns.join(', ')} from contacts where id = $1`,
      [contactId],
    ))!;
    await update(tx, 'contacts', contactId, { ...values, updatedAt: now });
    return columns
      .map((column, at) => ({
        contactId,
        column,
        before: Object.values(before)[at] ?? null,
        after: values[column] ?? null,
      }))
      .filter((done) => done.before !== done.after);
  };
  const add = async (table: string, row: object): Promise<Done[]> => {
    const id = app.ids.id();
    await insert(tx, table, { id, contactId, ...row }, 'on conflict do nothing');
    return [{ contactId, table, id }];
  };
  if (isText(change.field)) return set({ [attributes[change.field].column]: person[change.field] });
  switch (change.field) {
    case 'name':
      return set({ given_name: person.given, family_name: person.family });
    case 'birth date':
      return set({ birth_date: person.birthDate });
    case 'address':
      return set({
        ...(person.street ? { street: person.street } : {}),
        ...(person.postalCode ? { postal_code: person.postalCode } : {}),
        // What is brought is where they live now.
        moved_on: null,
      });
    case 'language':
      return set({ language: person.language });
    case 'do not contact':
      return set({ do_not_contact: person.doNotContact });
    case 'email':
      return add('contact_emails', emailRow(person, change.after, 5));
    case 'phone':
      return add('contact_phones', phoneRow(person, change.after, 5));
    case 'guardian of':
      // Whose guardian is known once every row is somebody: see applying.ts.
      return [];
    case 'note':
      return add('contact_notes', { text: change.after, author: source, at: now });
    case 'membership':
      return add(
        'memberships',
        membershipRow(contactId, person.memberships.find((m) => sayMembership(m) === change.after)!, now),
      );
    case 'member until': {
      const said = sayMembership(person.memberships.find((m) => m.until === change.after)!);
      const known = await tx.query<Membership & { id: string }>(
        'select id, number, since, level, ends_on as until from memberships where contact_id = $1 order by created_at, id',
        [contactId],
      );
      const same = known.find((m) => sayMembership(m) === said)!;
      await update(tx, 'memberships', same.id, { endsOn: change.after });
      return [
        {
          contactId,
          table: 'memberships',
          id: same.id,
          column: 'ends_on',
          before: same.until,
          after: change.after,
        },
      ];
    }
    case 'organization':
      return add('affiliations', {
        organizationId: organizations.get(fold(change.after)),
        role: '',
        createdAt: now,
      });
    case 'own field': {
      const { id: fieldId, value } = person.fields.find((f) => f.id === change.fieldId)!;
      const before = await first<{ value: string }>(
        tx,
        'select value from custom_values where contact_id = $1 and field_id = $2',
        [contactId, fieldId],
      );
      await setValue(tx, contactId, fieldId, value);
      return [
        { contactId, table: 'custom_values', id: fieldId, before: before?.value ?? null, after: value },
      ];
    }
    case 'died on':
      return set({ deceased_on: person.deceasedOn });
    case 'newsletter': {
      const at = (await first<{ at: string | null }>(
        tx,
        "select max(at) as at from consents where contact_id = $1 and topic = 'newsletter' and channel = 'email'",
        [contactId],
      ))!.at;
      // An older yes of theirs never comes after a later no of ours.
      const row = consentRow(contactId, person.newsletter!, source, now, zone);
      return add('consents', { ...row, at: at && row.at <= at ? now : row.at });
    }
    case 'tags':
      await insert(tx, 'contact_tags', { contactId, tag: change.after, at: now }, 'on conflict do nothing');
      return [{ contactId, table: 'contact_tags', tag: change.after }];
    case 'emergency': {
      const id = app.ids.id();
      await insert(tx, 'relationships', {
        id,
        ...emergencyRow(contactId, person.emergencies.find((e) => change.after.startsWith(e.name))!, now),
      });
      return [{ contactId, table: 'relationships', id }];
    }
  }
}
