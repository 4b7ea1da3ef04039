import type { ContactRecord, contactsContract, ImportRow, ImportSummary } from '#contract/contacts.ts';
import { type Mapping, problemsWithMapping, proposeMapping } from '#core/contacts/importing.ts';
import { fullName } from '#core/contacts/names.ts';
import { emailKey } from '#core/contacts/reach.ts';
import { readTable, TableProblem } from '#core/exchange/table.ts';
import { sayAmount } from '#core/money/amount.ts';
import { ageOn, dateOf, instantOf } from '#core/time/wallTime.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { sha256 } from '../db/ids.ts';
import { searchEvents } from '../events/store.ts';
import { audit } from '../http/app.ts';
import type { Handlers } from '../http/handle.ts';
import { invalid, notFound } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { applyImport, checkImport, keepUnread, needState, undoImport } from './importing.ts';
import { readLifeline } from './lifeline.ts';
import { linkPerson, refreshSearch } from './linking.ts';
import { readReach } from './reach.ts';
import * as store from './store.ts';

const pageOfLifeline = 60;

async function record(tx: Queries, contactId: string, now: string): Promise<ContactRecord> {
  const contact = await store.readContact(tx, contactId);
  if (!contact) throw notFound('This contact');
  const { zone } = await theOrganization(tx);
  const today = dateOf(now, zone);
  const { givenName: given, familyName: family, householdId: _, ...rest } = contact;
  return {
    ...rest,
    given,
    family,
    age: contact.birthDate ? ageOn(contact.birthDate, today) : null,
    memberships: await store.readMemberships(tx, contactId),
    related: await store.readRelated(tx, contactId),
    totals: await store.readTotals(tx, contactId, instantOf(`${today.slice(0, 4)}-01-01T00:00`, zone)),
  };
}

interface ImportRecord extends Omit<ImportSummary, 'sample' | 'appliedBefore'> {
  fileHash: string;
}

async function readImport(tx: Queries, id: string): Promise<ImportRecord> {
  const row = await first<ImportRecord>(
    tx,
    `select id, file_name, file_hash, state, encoding, delimiter, heading_line, headings, mapping, counts, created_at, applied_at, undone_at
     from imports where id = $1`,
    [id],
  );
  if (!row) throw notFound('This import');
  return row;
}

async function summary(tx: Queries, id: string): Promise<ImportSummary> {
  const { fileHash, ...row } = await readImport(tx, id);
  const before = await first<{ id: string; at: string }>(
    tx,
    "select id, applied_at as at from imports where file_hash = $1 and state = 'applied' and id <> $2 order by applied_at desc limit 1",
    [fileHash, id],
  );
  const sample = await tx.query<{ cells: string[] }>(
    'select cells from import_rows where import_id = $1 order by line limit 5',
    [id],
  );
  return { ...row, appliedBefore: before, sample: sample.map((s) => s.cells) };
}

export const contactsHandlers: Handlers<typeof contactsContract> = {
  'GET /api/search': async ({ tx, query }) => ({
    contacts: await store.searchContacts(tx, query.q, 8),
    events: query.q.trim() ? await searchEvents(tx, query.q, 5) : [],
  }),

  'GET /api/contacts': ({ tx, query }) =>
    store.listContacts(tx, query.q, query.sort, query.limit, query.offset),

  'POST /api/contacts': async (c) => {
    const { country } = await theOrganization(c.tx);
    const { email, phone, problems } = readReach(c.body, country);
    if (!fullName(c.body)) problems.push({ path: 'given', message: 'Give a name.' });
    if (problems.length) throw invalid(problems);
    const linked = await linkPerson(c, { ...c.body, email, phone }, `added by ${c.staff.name}`);
    if (linked.created) await audit(c, 'added by hand', { kind: 'contact', id: linked.contactId });
    return { id: linked.contactId, existed: !linked.created, reasons: linked.reasons };
  },

  'GET /api/contacts/:id': ({ tx, params, now }) => record(tx, params.id, now),

  'PATCH /api/contacts/:id': async (c) => {
    const { tx, params, body, now, app } = c;
    const before = await store.readContact(tx, params.id);
    if (!before) throw notFound('This contact');
    const { country } = await theOrganization(tx);
    const { addEmail, addPhone, given, family, ...fields } = body;
    const { email, phone, problems } = readReach({ email: addEmail, phone: addPhone }, country);
    const named = { given: given ?? before.givenName, family: family ?? before.familyName };
    if (!fullName(named)) problems.push({ path: 'given', message: 'Give a name.' });
    if (problems.length)
      throw invalid(
        problems.map((p) => ({
          ...p,
          path: p.path.replace('email', 'addEmail').replace('phone', 'addPhone'),
        })),
      );
    await update(tx, 'contacts', params.id, {
      ...fields,
      givenName: named.given,
      familyName: named.family,
      updatedAt: now,
    });
    if (email)
      await insert(
        tx,
        'contact_emails',
        { id: app.ids.id(), contactId: params.id, email, emailKey: emailKey(email), position: 5 },
        'on conflict do nothing',
      );
    if (phone)
      await insert(
        tx,
        'contact_phones',
        { id: app.ids.id(), contactId: params.id, phone, position: 5 },
        'on conflict do nothing',
      );
    await refreshSearch(tx, params.id);
    await audit(c, 'changed by hand', { kind: 'contact', id: params.id }, { fields: Object.keys(body) });
    return record(tx, params.id, now);
  },

  'GET /api/contacts/:id/lifeline': async ({ tx, params, query }) => {
    if (!(await store.readContact(tx, params.id))) throw notFound('This contact');
    const { currency } = await theOrganization(tx);
    const rows = await readLifeline(tx, params.id, query.kind ?? null, pageOfLifeline + 1, query.offset);
    return {
      more: rows.length > pageOfLifeline,
      entries: rows.slice(0, pageOfLifeline).map(({ amount, ...row }) => ({
        ...row,
        text: amount === null ? row.text : `${row.text} ${sayAmount(Math.abs(amount), currency)}`,
      })),
    };
  },

  'GET /api/imports': async ({ tx }) => {
    const ids = await tx.query<{ id: string }>(
      'select id from imports order by created_at desc, id desc limit 50',
    );
    return Promise.all(ids.map(({ id }) => summary(tx, id)));
  },

  'POST /api/imports': async (c) => {
    const { tx, app, body, now, staff } = c;
    const bytes = Buffer.from(body.content, 'base64');
    try {
      const table = readTable(bytes);
      const id = app.ids.id();
      const mapping = proposeMapping(table);
      await insert(tx, 'imports', {
        id,
        fileName: body.fileName,
        fileHash: sha256(bytes),
        state: 'checked',
        encoding: table.encoding,
        delimiter: table.delimiter,
        headingLine: table.headingLine,
        headings: table.headings,
        mapping,
        counts: { new: 0, known: 0, look: 0, rejected: 0 },
        createdBy: staff.id,
        createdAt: now,
      });
      const unread = problemsWithMapping(mapping, table.headings.length);
      if (unread.length) await keepUnread(c, id, table.rows, unread);
      else await checkImport(c, id, table, mapping);
      return summary(tx, id);
    } catch (error) {
      if (error instanceof TableProblem) throw invalid([{ path: 'content', message: error.message }]);
      throw error;
    }
  },

  'GET /api/imports/:id': ({ tx, params }) => summary(tx, params.id),

  'GET /api/imports/:id/rows': async ({ tx, params, query }) => {
    await readImport(tx, params.id);
    const rows = await tx.query<
      ImportRow & {
        person: { given: string; family: string; email: string | null; phone: string | null } | null;
        cells: string[];
        knownGiven: string | null;
        knownFamily: string | null;
      }
    >(
      `select line, verdict, reasons, person, cells, contact_id, c.given_name as known_given, c.family_name as known_family
       from import_rows r left join contacts c on c.id = r.contact_id
       where r.import_id = $1 and ($2::text is null or r.verdict = $2) order by r.line limit 2000`,
      [params.id, query.verdict ?? null],
    );
    return rows.map(({ line, verdict, reasons, person, cells, contactId, knownGiven, knownFamily }) => ({
      line,
      verdict,
      reasons,
      name: person ? fullName(person) : cells.filter(Boolean).slice(0, 3).join(' · '),
      email: person?.email ?? null,
      phone: person?.phone ?? null,
      contactId,
      contactName: knownGiven === null ? null : fullName({ given: knownGiven, family: knownFamily ?? '' }),
    }));
  },

  'PUT /api/imports/:id/mapping': async (c) => {
    const stored = await readImport(c.tx, c.params.id);
    needState(stored.state, 'checked');
    const rows = await c.tx.query<{ line: number; cells: string[] }>(
      'select line, cells from import_rows where import_id = $1 order by line',
      [c.params.id],
    );
    await checkImport(c, c.params.id, { headings: stored.headings, rows }, c.body as Mapping);
    return summary(c.tx, c.params.id);
  },

  'POST /api/imports/:id/apply': async (c) => {
    const stored = await readImport(c.tx, c.params.id);
    needState(stored.state, 'checked');
    // Checked again in this transaction, so that what was added since the dry run is known.
    const rows = await c.tx.query<{ line: number; cells: string[] }>(
      'select line, cells from import_rows where import_id = $1 order by line',
      [c.params.id],
    );
    await checkImport(c, c.params.id, { headings: stored.headings, rows }, stored.mapping as Mapping);
    await applyImport(c, c.params.id, stored.fileName);
    return summary(c.tx, c.params.id);
  },

  'POST /api/imports/:id/undo': async (c) => {
    needState((await readImport(c.tx, c.params.id)).state, 'applied');
    return undoImport(c, c.params.id);
  },

  'DELETE /api/imports/:id': async (c) => {
    needState((await readImport(c.tx, c.params.id)).state, 'checked');
    await c.tx.query('delete from imports where id = $1', [c.params.id]);
    return { done: true };
  },
};
