import type { contactsContract } from '#contract/contacts.ts';
import type { BodyOf } from '#contract/endpoint.ts';
import { fullName } from '#core/contacts/names.ts';
import { readReach } from '#core/contacts/reach.ts';
import { dateOf, isZone } from '#core/time/wallTime.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import type { SignedIn, Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import { type FieldProblem, invalid, notFound } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { setValues } from './fields.ts';
import { refreshFound } from './keys.ts';
import { linkPerson } from './linking.ts';
import { readReachLists } from './reach.ts';
import * as store from './store.ts';
import { organizationNamed } from './ties.ts';

type Body<K extends keyof typeof contactsContract> = BodyOf<(typeof contactsContract)[K]>;

/** Adds a person or an organization by hand; answers the one that is known where it is the same, and why. */
export async function addContact(
  w: Work,
  body: Body<'POST /api/contacts'>,
): Promise<{ id: string; existed: boolean; reasons: Reason[] }> {
  const { country } = await theOrganization(w.tx);
  const { email, phone, problems: wrong } = readReach(body, country);
  const problems: FieldProblem[] = [...wrong];
  if (!fullName(body)) problems.push({ path: 'given', code: 'name-needed' });
  if (problems.length) throw invalid(problems);
  const source = `added by ${w.actor.name}`;
  if (body.kind === 'organization') {
    const made = await organizationNamed(w, fullName(body), source);
    if (!made.existed) {
      if (email) await store.setEmails(w.tx, w.app.ids, made.id, [{ email, kind: '', endedOn: null }]);
      if (phone) await store.setPhones(w.tx, w.app.ids, made.id, [{ phone, kind: '', endedOn: null }]);
      await refreshFound(w.tx, [made.id]);
      await record(w, 'contact changed', { contactId: made.id, how: 'added by hand' });
    }
    return { ...made, reasons: made.existed ? [because('known organization')] : [] };
  }
  const linked = await linkPerson(w, { ...body, email, phone }, source, 'staff');
  if (linked.created)
    await record(w, 'contact changed', { contactId: linked.contactId, how: 'added by hand' });
  return { id: linked.contactId, existed: !linked.created, reasons: linked.reasons };
}

/** Changes what a contact has of itself. Throws what is wrong, by field. */
export async function changeContact(
  w: Work,
  contactId: string,
  body: Body<'PATCH /api/contacts/:id'>,
): Promise<void> {
  const { tx, app, now } = w;
  const before = await store.readContact(tx, contactId);
  if (!before) throw notFound('This contact');
  const { country, zone } = await theOrganization(tx);
  const { emails, phones, given, family, fields: own, ...fields } = body;
  const named = { given: given ?? before.givenName, family: family ?? before.familyName };
  const problems: FieldProblem[] = fullName(named) ? [] : [{ path: 'given', code: 'name-needed' }];
  const reach = readReachLists({ emails, phones }, country, problems);
  const today = dateOf(now, zone);
  if (fields.deceasedOn && fields.deceasedOn > today)
    problems.push({ path: 'deceasedOn', code: 'in-the-future' });
  if (fields.birthDate && fields.birthDate > today)
    problems.push({ path: 'birthDate', code: 'in-the-future' });
  if (fields.zone && !isZone(fields.zone)) problems.push({ path: 'zone', code: 'no-zone' });
  const dated = [
    ...(emails ?? []).map((e, at) => ({ path: `emails.${at}.endedOn`, day: e.endedOn })),
    ...(phones ?? []).map((p, at) => ({ path: `phones.${at}.endedOn`, day: p.endedOn })),
    { path: 'movedOn', day: fields.movedOn },
  ];
  for (const { path, day } of dated) if (day && day > today) problems.push({ path, code: 'in-the-future' });
  const fill = await setValues(tx, contactId, own ?? {}, problems);
  if (problems.length) throw invalid(problems);
  await fill();
  const elsewhere =
    before.movedOn !== null &&
    (fields.movedOn ?? before.movedOn) === before.movedOn &&
    Boolean(fields.street) &&
    fields.street !== before.street;
  await update(tx, 'contacts', contactId, {
    ...fields,
    // Another street is where they live now.
    ...(elsewhere ? { movedOn: null } : {}),
    givenName: named.given,
    familyName: named.family,
    updatedAt: now,
  });
  if (reach.emails) await store.setEmails(tx, app.ids, contactId, reach.emails);
  if (reach.phones) await store.setPhones(tx, app.ids, contactId, reach.phones);
  await refreshFound(tx, [contactId]);
  await record(w, 'contact changed', {
    contactId,
    how: 'changed by hand',
    detail: { fields: Object.keys(body) },
  });
}

/** Writes down what somebody said about a topic. `source`: to whom, or where. */
export async function writeConsent(
  w: Work,
  contactId: string,
  consent: Body<'POST /api/contacts/:id/consents'>,
  source: string,
): Promise<void> {
  await insert(w.tx, 'consents', { id: w.app.ids.id(), contactId, ...consent, source, at: w.now });
  await record(w, 'contact changed', { contactId, how: 'consent written down', detail: consent });
}

/** Gives contacts a tag; answers who did not have it. */
export async function tagContacts(w: Work, tag: string, ids: readonly string[]): Promise<string[]> {
  const changed = await store.addTag(w.tx, tag, ids, w.now);
  for (const contactId of changed)
    await record(w, 'contact changed', { contactId, how: `got the tag “${tag}”` });
  return changed;
}

/** Takes a tag off contacts; answers who had it. */
export async function untagContacts(w: Work, tag: string, ids: readonly string[]): Promise<string[]> {
  const changed = await store.removeTag(w.tx, tag, ids);
  for (const contactId of changed)
    await record(w, 'contact changed', { contactId, how: `lost the tag “${tag}”` });
  return changed;
}

/** Writes a note or a task about a contact. */
export async function writeNote(
  w: Work,
  contactId: string,
  note: Body<'POST /api/contacts/:id/notes'>,
  author: Pick<SignedIn, 'id' | 'name'>,
  /** The survey it came of. */
  surveyId: string | null = null,
): Promise<string> {
  const id = w.app.ids.id();
  await insert(w.tx, 'contact_notes', {
    id,
    contactId,
    ...note,
    surveyId,
    author: author.name,
    authorId: author.id,
    at: w.now,
  });
  return id;
}

type Note = NonNullable<Awaited<ReturnType<typeof store.readNote>>>;

/** Changes a note, or ticks a task off. */
export async function changeNote(w: Work, note: Note, body: Body<'PATCH /api/notes/:id'>): Promise<void> {
  const { done, ...change } = body;
  await update(w.tx, 'contact_notes', note.id, {
    ...change,
    ...(done === undefined ? {} : { doneAt: done ? w.now : null }),
  });
  await record(w, 'contact changed', {
    contactId: note.contactId,
    how: 'changed a note',
    detail: { before: note.text, ...change, done },
  });
}

export async function removeNote(w: Work, note: Note): Promise<void> {
  await store.deleteNote(w.tx, note.id);
  await record(w, 'contact changed', {
    contactId: note.contactId,
    how: 'took a note away',
    detail: { text: note.text },
  });
}
