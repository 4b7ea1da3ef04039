import type { ContactRecord, contactsContract } from '#contract/contacts.ts';
import {
  type ContactPart,
  cutRecord,
  lifelineKindsOf,
  mayChangeNote,
  partOfField,
  partsOfAll,
} from '#core/access/contacts.ts';
import { noTexts } from '#core/contacts/attributes.ts';
import { lifelineKinds } from '#core/contacts/lifeline.ts';
import { fold, fullName } from '#core/contacts/names.ts';
import { writeCsv } from '#core/exchange/csv.ts';
import { sayAmount } from '#core/money/amount.ts';
import { ageOn, dateOf, instantOf } from '#core/time/wallTime.ts';
import type { Asker } from '../app/app.ts';
import { audit } from '../app/app.ts';
import { insert, type Queries, update } from '../db/database.ts';
import { File, type Handlers } from '../http/handle.ts';
import { type FieldProblem, invalid, notFound, Problem } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { erase, everythingOf, whatErasingDoes } from './erasing.ts';
import { contactsCsv, contactsVCard } from './exporting.ts';
import { readValues, setValues } from './fields.ts';
import { refreshFound } from './keys.ts';
import { readLifeline } from './lifeline.ts';
import { linkPerson } from './linking.ts';
import { photoHandlers } from './photo.ts';
import { readReach, readReachLists } from './reach.ts';
import { contactFor, demandParts, logCare } from './seeing.ts';
import * as store from './store.ts';
import { organizationNamed, readPeopleOf, readTies } from './ties.ts';

const pageOfLifeline = 60;

async function record(tx: Queries, id: string, now: string): Promise<Omit<ContactRecord, 'hidden'>> {
  // A contact that was merged opens as the one it became.
  const contactId = await store.resolveContact(tx, id);
  const contact = contactId && (await store.readContact(tx, contactId));
  if (!contact) throw notFound('This contact');
  const { zone } = await theOrganization(tx);
  const today = dateOf(now, zone);
  const { givenName: given, familyName: family, householdId: _, ...rest } = contact;
  return {
    ...rest,
    given,
    family,
    age: contact.birthDate ? ageOn(contact.birthDate, today) : null,
    ties: await readTies(tx, contactId),
    people: contact.kind === 'organization' ? await readPeopleOf(tx, contactId) : [],
    fields: await readValues(tx, contactId),
    related: await store.readRelated(tx, contactId),
    consents: await store.readConsents(tx, contactId),
    tags: await store.readTags(tx, contactId),
    notes: await store.readNotes(tx, contactId),
    companions: await store.readCompanions(tx, contactId),
    merges: await store.readMerges(tx, contactId),
    totals: await store.readTotals(tx, contactId, instantOf(`${today.slice(0, 4)}-01-01T00:00`, zone)),
  };
}

/** The record as far as somebody sees it. */
async function recordFor(c: Asker & { tx: Queries }, id: string): Promise<ContactRecord> {
  const { contactId, inUnit } = await contactFor(c, id);
  return cutRecord(await record(c.tx, contactId, c.now), c.staff, inUnit);
}

/** What a form of a new contact sends without anybody having written it. */
const blankPerson: Record<string, unknown> = {
  email: null,
  phone: null,
  birthDate: null,
  street: null,
  postalCode: null,
  ...noTexts,
};

/** The parts of a contact that a body writes; what is as in a blank form is not written. */
const partsWritten = (body: object, blank: Record<string, unknown>): ContactPart[] =>
  Object.entries(body).flatMap(([field, value]) =>
    value === undefined || (field in blank && value === blank[field]) ? [] : (partOfField(field) ?? []),
  );

async function noteFor(c: Asker & { tx: Queries }, id: string) {
  const note = await store.readNote(c.tx, id);
  if (!note) throw notFound('This note');
  if (!mayChangeNote(c.staff, note))
    throw new Problem(403, 'not-your-note', 'A note is changed by who wrote it, or by a coordinator.');
  return note;
}

type Elsewhere = 'GET /api/search' | 'GET /api/contacts' | 'GET /api/contacts/ids';

/** What asks for events or segments beside contacts is answered on a higher floor. */
export const contactsHandlers: Omit<Handlers<typeof contactsContract>, Elsewhere> = {
  'GET /api/contacts.csv': async ({ tx }) => new File('contacts.csv', await contactsCsv(tx, null)),

  'GET /api/contacts.vcf': async ({ tx, now }) =>
    new File('contacts.vcf', await contactsVCard(tx, null, now)),

  'POST /api/contacts/chosen.csv': async ({ tx, body }) =>
    new File('contacts.csv', await contactsCsv(tx, body.ids)),

  'POST /api/contacts/chosen.vcf': async ({ tx, body, now }) =>
    new File('contacts.vcf', await contactsVCard(tx, body.ids, now)),

  'POST /api/contacts/:id/consents': async (c) => {
    const { contactId } = await contactFor(c, c.params.id, 'consents');
    await insert(c.tx, 'consents', {
      id: c.app.ids.id(),
      contactId,
      ...c.body,
      source: `said to ${c.staff.name}`,
      at: c.now,
    });
    await audit(c, 'consent written down', { kind: 'contact', id: contactId }, c.body);
    return { done: true };
  },

  'GET /api/contacts/:id/everything.json': async ({ tx, params, now }) => {
    const person = await record(tx, params.id, now);
    const body = { person, ...(await everythingOf(tx, person.id)) };
    return new File(`${fullName(person)}.json`, JSON.stringify(body, null, 2));
  },

  'GET /api/contacts/:id/everything.csv': async ({ tx, params, now }) => {
    const person = await record(tx, params.id, now);
    const { currency } = await theOrganization(tx);
    const rows = await readLifeline(tx, person.id, lifelineKinds, 100_000, 0);
    return new File(
      `${fullName(person)}.csv`,
      writeCsv(
        ['When', 'Kind', 'What', 'Detail', 'Event', 'Amount'],
        rows.map((r) => [
          r.at,
          r.kind,
          r.text,
          r.detail,
          r.eventTitle,
          r.amount === null ? '' : sayAmount(r.amount, currency),
        ]),
      ),
    );
  },

  'GET /api/contacts/:id/erasure': async ({ tx, params }) => {
    const contactId = await store.resolveContact(tx, params.id);
    if (!contactId) throw notFound('This contact');
    return whatErasingDoes(tx, contactId);
  },

  'POST /api/contacts/:id/erase': async (c) => {
    const person = await record(c.tx, c.params.id, c.now);
    if (person.erasedAt) throw invalid([{ path: 'name', message: 'This person was erased already.' }]);
    if (fold(c.body.name) !== fold(fullName(person)))
      throw invalid([{ path: 'name', message: `Type the name as it stands: ${fullName(person)}.` }]);
    const { kept } = await whatErasingDoes(c.tx, person.id);
    await erase(c, person.id);
    return { kept };
  },

  'GET /api/tags': ({ tx, staff }) => {
    demandParts(partsOfAll(staff), ['tags']);
    return tx.query<{ tag: string; contacts: number }>(
      `select tag, count(*)::int as contacts from contact_tags t join contacts c on c.id = t.contact_id
       where c.merged_into is null group by tag order by tag`,
    );
  },

  'POST /api/tags': async (c) => {
    const { tag, ids, remove } = c.body;
    demandParts(partsOfAll(c.staff), ['tags']);
    const rows = await c.tx.query<{ contactId: string }>(
      remove
        ? 'delete from contact_tags where tag = $1 and contact_id = any($2) returning contact_id'
        : `insert into contact_tags (contact_id, tag, at) select id, $1, $3 from contacts where id = any($2) and merged_into is null
           on conflict do nothing returning contact_id`,
      remove ? [tag, ids] : [tag, ids, c.now],
    );
    const changed = rows.map((r) => r.contactId);
    for (const id of changed)
      await audit(c, `${remove ? 'lost' : 'got'} the tag “${tag}”`, { kind: 'contact', id });
    return { changed };
  },

  'POST /api/contacts/:id/notes': async (c) => {
    const { contactId } = await contactFor(c, c.params.id);
    const id = c.app.ids.id();
    await insert(c.tx, 'contact_notes', {
      id,
      contactId,
      ...c.body,
      author: c.staff.name,
      authorId: c.staff.id,
      at: c.now,
    });
    return (await store.readNote(c.tx, id))!;
  },

  'PATCH /api/notes/:id': async (c) => {
    const note = await noteFor(c, c.params.id);
    const { done, ...change } = c.body;
    await update(c.tx, 'contact_notes', note.id, {
      ...change,
      ...(done === undefined ? {} : { doneAt: done ? c.now : null }),
    });
    await audit(
      c,
      'changed a note',
      { kind: 'contact', id: note.contactId },
      { before: note.text, ...change, done },
    );
    return (await store.readNote(c.tx, note.id))!;
  },

  'DELETE /api/notes/:id': async (c) => {
    const note = await noteFor(c, c.params.id);
    await c.tx.query('delete from contact_notes where id = $1', [note.id]);
    await audit(c, 'took a note away', { kind: 'contact', id: note.contactId }, { text: note.text });
    return note;
  },

  'POST /api/contacts': async (c) => {
    demandParts(partsOfAll(c.staff), partsWritten(c.body, blankPerson));
    const { country } = await theOrganization(c.tx);
    const { email, phone, problems } = readReach(c.body, country);
    if (!fullName(c.body)) problems.push({ path: 'given', message: 'Give a name.' });
    if (problems.length) throw invalid(problems);
    if (c.body.kind === 'organization') {
      const made = await organizationNamed(c, fullName(c.body), `added by ${c.staff.name}`);
      if (!made.existed) {
        if (email) await store.setEmails(c.tx, c.app.ids, made.id, [{ email, kind: '', endedOn: null }]);
        if (phone) await store.setPhones(c.tx, c.app.ids, made.id, [{ phone, kind: '', endedOn: null }]);
        await refreshFound(c.tx, [made.id]);
        await audit(c, 'added by hand', { kind: 'contact', id: made.id });
      }
      return { ...made, reasons: made.existed ? ['an organization of this name is known'] : [] };
    }
    const linked = await linkPerson(c, { ...c.body, email, phone }, `added by ${c.staff.name}`, 'staff');
    if (linked.created) await audit(c, 'added by hand', { kind: 'contact', id: linked.contactId });
    return {
      id: linked.contactId,
      existed: !linked.created,
      // Reasons name what is known of somebody: for those who see it.
      reasons: partsOfAll(c.staff).has('birth') ? linked.reasons : [],
    };
  },

  'GET /api/contacts/:id': async (c) => {
    const shown = await recordFor(c, c.params.id);
    if (shown.dietary) await logCare(c, 'contact', [{ contactId: shown.id }]);
    return shown;
  },

  'PATCH /api/contacts/:id': async (c) => {
    const { tx, params, body, now, app } = c;
    const { parts } = await contactFor(c, params.id);
    demandParts(parts, partsWritten(body, {}));
    const before = await store.readContact(tx, params.id);
    if (!before) throw notFound('This contact');
    const { country, zone } = await theOrganization(tx);
    const { emails, phones, given, family, fields: own, ...fields } = body;
    const named = { given: given ?? before.givenName, family: family ?? before.familyName };
    const problems: FieldProblem[] = fullName(named) ? [] : [{ path: 'given', message: 'Give a name.' }];
    const reach = readReachLists({ emails, phones }, country, problems);
    const today = dateOf(now, zone);
    if (fields.deceasedOn && fields.deceasedOn > today)
      problems.push({ path: 'deceasedOn', message: 'This date is in the future.' });
    if (fields.birthDate && fields.birthDate > today)
      problems.push({ path: 'birthDate', message: 'This date is in the future.' });
    const dated = [
      ...(emails ?? []).map((e, at) => ({ path: `emails.${at}.endedOn`, day: e.endedOn })),
      ...(phones ?? []).map((p, at) => ({ path: `phones.${at}.endedOn`, day: p.endedOn })),
      { path: 'movedOn', day: fields.movedOn },
    ];
    for (const { path, day } of dated)
      if (day && day > today) problems.push({ path, message: 'This date is in the future.' });
    const fill = await setValues(tx, params.id, own ?? {}, problems);
    if (problems.length) throw invalid(problems);
    await fill();
    const elsewhere =
      before.movedOn !== null &&
      (fields.movedOn ?? before.movedOn) === before.movedOn &&
      Boolean(fields.street) &&
      fields.street !== before.street;
    await update(tx, 'contacts', params.id, {
      ...fields,
      // Another street is where they live now.
      ...(elsewhere ? { movedOn: null } : {}),
      givenName: named.given,
      familyName: named.family,
      updatedAt: now,
    });
    if (reach.emails) await store.setEmails(tx, app.ids, params.id, reach.emails);
    if (reach.phones) await store.setPhones(tx, app.ids, params.id, reach.phones);
    await refreshFound(tx, [params.id]);
    await audit(c, 'changed by hand', { kind: 'contact', id: params.id }, { fields: Object.keys(body) });
    return recordFor(c, params.id);
  },

  ...photoHandlers,

  'GET /api/contacts/:id/lifeline': async (c) => {
    const { tx, query, staff } = c;
    const { contactId, inUnit } = await contactFor(c, c.params.id);
    const { currency } = await theOrganization(tx);
    const { kinds, unitId } = lifelineKindsOf(staff, inUnit);
    const wanted = query.kind ? kinds.filter((k) => k === query.kind) : kinds;
    const rows = await readLifeline(tx, contactId, wanted, pageOfLifeline + 1, query.offset, unitId);
    return {
      more: rows.length > pageOfLifeline,
      entries: rows.slice(0, pageOfLifeline).map(({ amount, ...row }) => ({
        ...row,
        text: amount === null ? row.text : `${row.text} ${sayAmount(Math.abs(amount), currency)}`,
      })),
    };
  },
};
