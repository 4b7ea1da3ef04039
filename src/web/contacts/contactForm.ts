import type { ContactRecord } from '#contract/contacts.ts';
import { textsOf } from '#core/contacts/attributes.ts';

/** What is known of a contact, as it is changed in a form. */
export const valuesOf = (contact: ContactRecord) => ({
  given: contact.given,
  family: contact.family,
  birthDate: contact.birthDate ?? '',
  street: contact.street ?? '',
  postalCode: contact.postalCode ?? '',
  texts: textsOf((key) => contact[key] ?? ''),
  language: contact.language as string,
  deceasedOn: contact.deceasedOn ?? '',
  movedOn: contact.movedOn ?? '',
  languages: contact.languages.join(' '),
  zone: contact.zone ?? '',
  fields: Object.fromEntries(contact.fields.map((f) => [f.id, f.value ?? ''])),
  doNotContact: contact.doNotContact,
  emails: contact.emails.map((e) => ({ value: e.email, kind: e.kind as string, endedOn: e.endedOn })),
  phones: contact.phones.map((p) => ({ value: p.phone, kind: p.kind as string, endedOn: p.endedOn })),
});
export type ContactForm = ReturnType<typeof valuesOf>;
