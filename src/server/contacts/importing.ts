import {
  type CheckedRow,
  checkRows,
  type Mapping,
  problemsWithMapping,
  readRow,
} from '#core/contacts/importing.ts';
import type { Candidate, Described } from '#core/contacts/match.ts';
import { fullName } from '#core/contacts/names.ts';
import { emailKey } from '#core/contacts/reach.ts';
import type { Table } from '#core/exchange/table.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { audit, type Work } from '../http/app.ts';
import { conflict, invalid } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { createContact, refreshSearch } from './linking.ts';
import { candidatesFor, nameKey } from './store.ts';

/**
 * Keeps the rows of a table whose columns could not be made out: every row waits, with what is missing as the reason,
 * until somebody says what the columns mean.
 */
export async function keepUnread(
  w: Work,
  importId: string,
  rows: Table['rows'],
  problems: readonly string[],
): Promise<void> {
  await insert(
    w.tx,
    'import_rows',
    rows.map(({ line, cells }) => ({ importId, line, cells, verdict: 'rejected', reasons: problems })),
  );
  await update(w.tx, 'imports', importId, { counts: { new: 0, known: 0, look: 0, rejected: rows.length } });
}

/** Checks every row of a table against the contacts and against one another, and keeps the result. Nothing else changes. */
export async function checkImport(
  w: Work,
  importId: string,
  table: Pick<Table, 'headings' | 'rows'>,
  mapping: Mapping,
): Promise<void> {
  const problems = problemsWithMapping(mapping, table.headings.length);
  if (problems.length) throw invalid(problems.map((message) => ({ path: 'columns', message })));
  const { country, zone } = await theOrganization(w.tx);
  const today = dateOf(w.now, zone);
  const people = table.rows.flatMap(({ cells }) => {
    const read = readRow(cells, mapping, country, today);
    return 'person' in read ? [read.person] : [];
  });
  const lookup = lookupOf(await candidatesFor(w.tx, people));
  const checked = checkRows(table as Table, mapping, country, today, lookup);
  await w.tx.query('delete from import_rows where import_id = $1', [importId]);
  await insert(
    w.tx,
    'import_rows',
    checked.map((row, at) => ({ importId, ...row, cells: table.rows[at]!.cells })),
  );
  const count = (verdict: CheckedRow['verdict']) => checked.filter((r) => r.verdict === verdict).length;
  await update(w.tx, 'imports', importId, {
    mapping,
    counts: { new: count('new'), known: count('known'), look: count('look'), rejected: count('rejected') },
  });
}

/** Finds candidates in memory by the same keys the database would use. */
function lookupOf(candidates: readonly Candidate[]): (person: Described) => Candidate[] {
  const byKey = new Map<string, Candidate[]>();
  const keysOf = (c: {
    emails: readonly string[];
    phones: readonly string[];
    given: string;
    family: string;
  }) => [...c.emails.map((e) => `e ${emailKey(e)}`), ...c.phones.map((p) => `p ${p}`), `n ${nameKey(c)}`];
  for (const c of candidates) for (const key of keysOf(c)) byKey.set(key, [...(byKey.get(key) ?? []), c]);
  return (person) => {
    const keys = keysOf({
      ...person,
      emails: person.email ? [person.email] : [],
      phones: person.phone ? [person.phone] : [],
    });
    return [...new Set(keys.flatMap((k) => byKey.get(k) ?? []))];
  };
}

interface StoredRow extends CheckedRow {
  cells: string[];
}

/** What applying a row did, kept so that it can be taken back. */
interface Applied {
  created?: string;
  filled?: { contactId: string; fields: Record<string, unknown>; emailId?: string; phoneId?: string };
  membershipId?: string;
  relationshipId?: string;
}

/**
 * Applies a checked import: new people become contacts, known ones get what they lack, rows that need a look become
 * contacts of their own. All of it in the caller's transaction.
 */
export async function applyImport(w: Work, importId: string, fileName: string): Promise<void> {
  const rows = await w.tx.query<StoredRow>(
    `select line, cells, verdict, reasons, person, contact_id, same_as_line, household_of from import_rows
     where import_id = $1 and verdict <> 'rejected' order by line`,
    [importId],
  );
  const byLine = new Map<number, string>();
  for (const row of rows) {
    const person = row.person!;
    const applied: Applied = {};
    let contactId = row.verdict === 'known' ? (row.contactId ?? byLine.get(row.sameAsLine!) ?? null) : null;
    if (contactId) applied.filled = await fillFromRow(w, contactId, row);
    else {
      contactId = await createContact(w, person, `import of ${fileName}`, {
        householdOf: row.householdOf,
        importId,
      });
      applied.created = contactId;
    }
    byLine.set(row.line, contactId);
    if (person.membership) applied.membershipId = await addMembership(w, contactId, person.membership);
    if (person.emergency) applied.relationshipId = await addEmergency(w, contactId, person.emergency);
    await w.tx.query(
      'update import_rows set contact_id = $3, applied = $4 where import_id = $1 and line = $2',
      [importId, row.line, contactId, JSON.stringify(applied)],
    );
  }
  await update(w.tx, 'imports', importId, { state: 'applied', appliedAt: w.now });
  await audit(w, 'applied an import', { kind: 'import', id: importId }, { rows: rows.length });
}

async function fillFromRow(w: Work, contactId: string, row: StoredRow): Promise<Applied['filled']> {
  const person = row.person!;
  const before = await first<Record<string, unknown>>(
    w.tx,
    'select birth_date, street, postal_code from contacts where id = $1',
    [contactId],
  );
  const fields: Record<string, unknown> = {};
  if (before && !before.birthDate && person.birthDate) fields.birthDate = person.birthDate;
  if (before && !before.street && person.street) fields.street = person.street;
  if (before && !before.postalCode && person.postalCode) fields.postalCode = person.postalCode;
  if (Object.keys(fields).length) await update(w.tx, 'contacts', contactId, { ...fields, updatedAt: w.now });
  const filled: NonNullable<Applied['filled']> = { contactId, fields };
  if (person.email) {
    const id = w.app.ids.id();
    const added = await w.tx.query(
      `insert into contact_emails (id, contact_id, email, email_key, position) values ($1, $2, $3, $4, 5)
       on conflict do nothing returning id`,
      [id, contactId, person.email, emailKey(person.email)],
    );
    if (added.length) filled.emailId = id;
  }
  if (person.phone) {
    const id = w.app.ids.id();
    const added = await w.tx.query(
      'insert into contact_phones (id, contact_id, phone, position) values ($1, $2, $3, 5) on conflict do nothing returning id',
      [id, contactId, person.phone],
    );
    if (added.length) filled.phoneId = id;
  }
  if (filled.emailId || filled.phoneId) await refreshSearch(w.tx, contactId);
  return filled;
}

async function addMembership(
  w: Work,
  contactId: string,
  m: { number: string | null; since: string | null; level: string | null },
): Promise<string | undefined> {
  const same = await w.tx.query(
    'select 1 from memberships where contact_id = $1 and number is not distinct from $2 and level is not distinct from $3 and since is not distinct from $4',
    [contactId, m.number, m.level, m.since],
  );
  if (same.length) return undefined;
  const id = w.app.ids.id();
  await insert(w.tx, 'memberships', { id, contactId, ...m, createdAt: w.now });
  return id;
}

async function addEmergency(
  w: Work,
  contactId: string,
  e: { name: string; phone: string | null },
): Promise<string | undefined> {
  const same = await w.tx.query(
    "select 1 from relationships where to_contact = $1 and kind = 'emergency' and other_name = $2 and other_phone is not distinct from $3",
    [contactId, e.name, e.phone],
  );
  if (same.length) return undefined;
  const id = w.app.ids.id();
  await insert(w.tx, 'relationships', {
    id,
    kind: 'emergency',
    toContact: contactId,
    otherName: e.name,
    otherPhone: e.phone,
    createdAt: w.now,
  });
  return id;
}

/**
 * Takes an import back: contacts it made go, except those something else hangs on by now; what it filled in goes where
 * nobody changed it since.
 */
export async function undoImport(w: Work, importId: string): Promise<{ removed: number; kept: string[] }> {
  const rows = await w.tx.query<{ applied: Applied }>(
    'select applied from import_rows where import_id = $1 and applied is not null order by line desc',
    [importId],
  );
  const kept: string[] = [];
  let removed = 0;
  for (const { applied } of rows) {
    if (applied.membershipId)
      await w.tx.query('delete from memberships where id = $1', [applied.membershipId]);
    if (applied.relationshipId)
      await w.tx.query('delete from relationships where id = $1', [applied.relationshipId]);
    if (applied.filled) await takeBackFilled(w.tx, applied.filled);
    if (!applied.created) continue;
    const used = await whatHangsOn(w.tx, applied.created);
    if (used) kept.push(used);
    else {
      await w.tx.query('delete from contacts where id = $1', [applied.created]);
      removed += 1;
    }
  }
  await update(w.tx, 'imports', importId, { state: 'undone', undoneAt: w.now });
  await audit(w, 'undid an import', { kind: 'import', id: importId }, { removed, kept: kept.length });
  return { removed, kept };
}

async function takeBackFilled(tx: Queries, filled: NonNullable<Applied['filled']>): Promise<void> {
  const columns = { birthDate: 'birth_date', street: 'street', postalCode: 'postal_code' } as const;
  for (const [key, value] of Object.entries(filled.fields)) {
    const column = columns[key as keyof typeof columns];
    await tx.query(`update contacts set ${column} = null where id = $1 and ${column}::text = $2`, [
      filled.contactId,
      value,
    ]);
  }
  if (filled.emailId) await tx.query('delete from contact_emails where id = $1', [filled.emailId]);
  if (filled.phoneId) await tx.query('delete from contact_phones where id = $1', [filled.phoneId]);
  await refreshSearch(tx, filled.contactId);
}

/** Says what keeps a contact from being removed; null when nothing hangs on it. */
async function whatHangsOn(tx: Queries, contactId: string): Promise<string | null> {
  const row = await first<{ givenName: string; familyName: string; things: string[] }>(
    tx,
    `select given_name, family_name, array_remove(array[
       case when exists (select 1 from registrations where contact_id = c.id) then 'registrations' end,
       case when exists (select 1 from orders where buyer_contact_id = c.id) then 'orders' end,
       case when exists (select 1 from assignments where contact_id = c.id) then 'shifts' end,
       case when exists (select 1 from payments where contact_id = c.id) then 'payments' end,
       case when exists (select 1 from messages where contact_id = c.id) then 'messages' end,
       case when exists (select 1 from relationships where from_contact = c.id) then 'people in their care' end,
       case when exists (select 1 from audit where subject_kind = 'contact' and subject_id = c.id) then 'changes made by hand' end
     ], null) as things from contacts c where id = $1`,
    [contactId],
  );
  if (!row?.things.length) return null;
  return `${fullName({ given: row.givenName, family: row.familyName })}: ${row.things.join(', ')}`;
}

/** Refuses an import that is not in the state the action needs. */
export function needState(is: string, wanted: 'checked' | 'applied'): void {
  if (is === wanted) return;
  throw conflict(
    'import-state',
    wanted === 'checked'
      ? `This import was ${is} already.`
      : `Only an applied import can be undone; this one is ${is}.`,
  );
}
