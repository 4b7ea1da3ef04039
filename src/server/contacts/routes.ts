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
import { lifelineKinds, sayLife } from '#core/contacts/lifeline.ts';
import { fold, fullName } from '#core/contacts/names.ts';
import { writeCsv } from '#core/exchange/csv.ts';
import { sayAmount } from '#core/money/amount.ts';
import { ageOn } from '#core/time/dates.ts';
import { dateOf, instantOf } from '#core/time/wallTime.ts';
import { sayReason } from '#core/words/reasons.ts';
import type { Asker } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { File, type Handlers } from '../http/handle.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import {
  addContact,
  changeContact,
  changeNote,
  removeNote,
  tagContacts,
  untagContacts,
  writeConsent,
  writeNote,
} from './commands.ts';
import { erase, everythingOf, whatErasingDoes } from './erasing.ts';
import { contactsCsv, contactsVCard } from './exporting.ts';
import { readValues } from './fields.ts';
import { readLifeline } from './lifeline.ts';
import { contactFor, demandParts, logCare } from './seeing.ts';
import * as store from './store.ts';
import { readPeopleOf, readTies } from './ties.ts';

const pageOfLifeline = 60;

async function wholeRecord(tx: Queries, id: string, now: string): Promise<Omit<ContactRecord, 'hidden'>> {
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
  return cutRecord(await wholeRecord(c.tx, contactId, c.now), c.staff, inUnit);
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
  if (!mayChangeNote(c.staff, note)) throw refused('not-your-note', {}, 403);
  return note;
}

type Elsewhere =
  | 'GET /api/search'
  | 'GET /api/contacts'
  | 'GET /api/contacts/ids'
  | `${'GET' | 'PUT' | 'DELETE'} /api/contacts/:id/photo`;

/** What asks for events, segments or pictures beside contacts is answered on a higher floor. */
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
    await writeConsent(c, contactId, c.body, `said to ${c.staff.name}`);
    return { done: true };
  },

  'GET /api/contacts/:id/everything.json': async ({ tx, params, now }) => {
    const person = await wholeRecord(tx, params.id, now);
    const body = { person, ...(await everythingOf(tx, person.id)) };
    return new File(`${fullName(person)}.json`, JSON.stringify(body, null, 2));
  },

  'GET /api/contacts/:id/everything.csv': async ({ tx, params, now }) => {
    const person = await wholeRecord(tx, params.id, now);
    const rows = await readLifeline(tx, person.id, lifelineKinds, 100_000, 0);
    return new File(
      `${fullName(person)}.csv`,
      writeCsv(
        ['When', 'Kind', 'What', 'Detail', 'Event', 'Amount'],
        rows.map((r) => [
          r.at,
          r.kind,
          sayLife(r.said),
          r.detail ? sayLife(r.detail) : '',
          r.eventTitle,
          r.amount === null ? '' : sayAmount(r.amount.amount, r.amount.currency),
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
    const person = await wholeRecord(c.tx, c.params.id, c.now);
    if (person.erasedAt) throw invalid([{ path: 'name', code: 'erased-already' }]);
    if (fold(c.body.name) !== fold(fullName(person)))
      throw invalid([{ path: 'name', code: 'name-as-it-stands', params: { name: fullName(person) } }]);
    const { kept } = await whatErasingDoes(c.tx, person.id);
    await erase(c, person.id);
    return { kept };
  },

  'GET /api/tags': ({ tx, staff }) => {
    demandParts(partsOfAll(staff), ['tags']);
    return store.readAllTags(tx);
  },

  'POST /api/tags': async (c) => {
    const { tag, ids, remove } = c.body;
    demandParts(partsOfAll(c.staff), ['tags']);
    const changed = await (remove ? untagContacts : tagContacts)(c, tag, ids);
    return { changed };
  },

  'POST /api/contacts/:id/notes': async (c) => {
    const { contactId } = await contactFor(c, c.params.id);
    const id = await writeNote(c, contactId, c.body, c.staff);
    return (await store.readNote(c.tx, id))!;
  },

  'PATCH /api/notes/:id': async (c) => {
    const note = await noteFor(c, c.params.id);
    await changeNote(c, note, c.body);
    return (await store.readNote(c.tx, note.id))!;
  },

  'DELETE /api/notes/:id': async (c) => {
    const note = await noteFor(c, c.params.id);
    await removeNote(c, note);
    return note;
  },

  'POST /api/contacts': async (c) => {
    demandParts(partsOfAll(c.staff), partsWritten(c.body, blankPerson));
    const { reasons, ...added } = await addContact(c, c.body);
    // Reasons name what is known of somebody: for those who see it.
    return {
      ...added,
      reasons:
        partsOfAll(c.staff).has('birth') || c.body.kind === 'organization' ? reasons.map(sayReason) : [],
    };
  },

  'GET /api/contacts/:id': async (c) => {
    const shown = await recordFor(c, c.params.id);
    if (shown.dietary) await logCare(c, 'contact', [{ contactId: shown.id }]);
    return shown;
  },

  'PATCH /api/contacts/:id': async (c) => {
    const { contactId, parts } = await contactFor(c, c.params.id);
    demandParts(parts, partsWritten(c.body, {}));
    await changeContact(c, contactId, c.body);
    return recordFor(c, contactId);
  },

  'GET /api/contacts/:id/lifeline': async (c) => {
    const { tx, query, staff } = c;
    const { contactId, inUnit } = await contactFor(c, c.params.id);
    const { kinds, unitId } = lifelineKindsOf(staff, inUnit);
    const wanted = query.kind ? kinds.filter((k) => k === query.kind) : kinds;
    const rows = await readLifeline(tx, contactId, wanted, pageOfLifeline + 1, query.offset, unitId);
    return {
      more: rows.length > pageOfLifeline,
      entries: rows.slice(0, pageOfLifeline).map(({ amount, said, detail, ...row }) => ({
        ...row,
        text:
          amount === null
            ? sayLife(said)
            : `${sayLife(said)} ${sayAmount(Math.abs(amount.amount), amount.currency)}`,
        detail: detail ? sayLife(detail) : '',
      })),
    };
  },
};
