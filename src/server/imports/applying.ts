import type { CheckedRow } from '#core/contacts/checking.ts';
import type { Change } from '#core/contacts/importing.ts';
import { startOf } from '#core/contacts/membership.ts';
import { fold } from '#core/contacts/names.ts';
import { emailKey } from '#core/contacts/reach.ts';
import {
  absorb,
  type EmergencyContact,
  type Membership,
  type PersonRow,
  sayMembership,
} from '#core/contacts/rows.ts';
import { instantOf } from '#core/time/wallTime.ts';
import { derived, keyRows, refreshFound } from '../contacts/keys.ts';
import { recordPair } from '../contacts/pairs.ts';
import { organizationNamed } from '../contacts/ties.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { audit, type Work } from '../http/app.ts';
import { theOrganization } from '../staff/store.ts';
import { Progress } from './progress.ts';
import type { ImportRecord } from './store.ts';

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

/** Rows that are added, gathered so that they go in by the thousand. */
class Batch {
  private readonly rows = new Map<string, object[]>();
  add(table: string, row: object): void {
    const list = this.rows.get(table);
    if (list) list.push(row);
    else this.rows.set(table, [row]);
  }
  /** Changes rows that were gathered and are not written yet. */
  change<T>(table: string, to: (row: T) => void): void {
    for (const row of this.rows.get(table) ?? []) to(row as T);
  }
  get size(): number {
    return [...this.rows.values()].reduce((n, list) => n + list.length, 0);
  }
  async write(tx: Queries, progress: Progress): Promise<void> {
    for (const table of ['contacts', 'contact_emails', 'contact_phones', 'contact_keys', 'contact_tags'])
      await this.put(tx, table, progress);
    for (const table of [...this.rows.keys()]) await this.put(tx, table, progress);
  }
  private async put(tx: Queries, table: string, progress: Progress): Promise<void> {
    const rows = this.rows.get(table) ?? [];
    this.rows.delete(table);
    for (let from = 0; from < rows.length; from += 2000) {
      const part = rows.slice(from, from + 2000);
      await insert(tx, table, part, table.startsWith('contact_') ? 'on conflict do nothing' : '');
      await progress.add(part.length);
    }
  }
}

/** The households of contacts there are and of contacts about to be, worked out before anything is written. */
class Homes {
  private readonly known = new Map<string, { householdId: string | null; family: string; fresh: boolean }>();
  private readonly made: { id: string; name: string; createdAt: string }[] = [];
  private readonly settled: { id: string; householdId: string }[] = [];
  constructor(private readonly w: Work) {}

  async read(ids: readonly string[]): Promise<void> {
    const rows = await this.w.tx.query<{ id: string; householdId: string | null; family: string }>(
      'select id, household_id, family_name as family from contacts where id = any($1)',
      [[...new Set(ids)]],
    );
    for (const { id, ...home } of rows) this.known.set(id, { ...home, fresh: false });
  }

  /** Says that a contact about to be made is of a household, or of none yet. */
  join(contactId: string, family: string, householdId: string | null): void {
    this.known.set(contactId, { householdId, family, fresh: true });
  }

  /** The household of a contact, a new one where there is none; null for somebody who is not there any more. */
  of(contactId: string): string | null {
    const home = this.known.get(contactId);
    if (!home) return null;
    if (!home.householdId) {
      home.householdId = this.w.app.ids.id();
      this.made.push({ id: home.householdId, name: home.family, createdAt: this.w.now });
      this.settled.push({ id: contactId, householdId: home.householdId });
    }
    return home.householdId;
  }

  /** Makes the new households, and settles those in them who were there or were gathered before they had one. */
  async write(batch: Batch): Promise<void> {
    await insert(this.w.tx, 'households', this.made);
    const here = this.settled.filter((s) => !this.known.get(s.id)!.fresh);
    await this.w.tx.query(
      `update contacts c set household_id = r."householdId"
       from jsonb_to_recordset($1::jsonb) as r(id uuid, "householdId" uuid) where c.id = r.id`,
      [JSON.stringify(here)],
    );
    const fresh = new Map(this.settled.map((s) => [s.id, s.householdId]));
    batch.change('contacts', (row: { id: string; householdId: string | null }) => {
      row.householdId ??= fresh.get(row.id) ?? null;
    });
  }
}

type Row = Pick<
  CheckedRow,
  | 'line'
  | 'verdict'
  | 'person'
  | 'contactId'
  | 'sameAsLine'
  | 'householdOf'
  | 'householdOfLine'
  | 'changes'
  | 'reasons'
  | 'probability'
>;

/**
 * Applies a checked import in the caller's transaction: new people become contacts, known ones get what the choices
 * allow, rows that need a look become contacts of their own and are put up for a decision.
 */
export async function applyImport(w: Work, record: ImportRecord): Promise<void> {
  const { tx } = w;
  const { zone } = await theOrganization(tx);
  const rows = await tx.query<Row>(
    `select line, verdict, person, contact_id, same_as_line, household_of, household_of_line, changes, reasons, probability
     from import_rows where import_id = $1 and verdict <> 'rejected' order by line`,
    [record.id],
  );
  const source = `import of ${record.fileName}`;
  const together = gather(rows);
  const contactOf = new Map<number, string>();
  const applied = new Map<number, Applied>();
  const batch = new Batch();
  const looks: { contactId: string; row: Row }[] = [];
  const homes = new Homes(w);
  await homes.read(rows.map((r) => r.householdOf).filter((id) => id !== null));

  for (const row of rows) {
    const isNew = row.verdict === 'new' || row.verdict === 'look';
    if (!isNew) continue;
    const id = w.app.ids.id();
    contactOf.set(row.line, id);
    applied.set(row.line, { created: id });
    const home =
      row.householdOf ?? (row.householdOfLine === null ? null : contactOf.get(row.householdOfLine));
    const person = together.get(row.line)!;
    const householdId = home ? homes.of(home) : null;
    addPerson(w, batch, id, person, householdId, source, record, zone);
    if (row.verdict === 'look' && row.contactId) looks.push({ contactId: id, row });
    homes.join(id, person.family, householdId);
  }
  await homes.write(batch);
  await batch.write(tx, new Progress(w.app, record.id, batch.size));
  for (const { contactId, row } of looks)
    await recordPair(
      w,
      contactId,
      {
        candidateId: row.contactId!,
        outcome: 'look',
        probability: row.probability ?? 0.5,
        findings: row.reasons.slice(0, 6).map((words) => ({ field: 'given', words, bits: 0 })),
        held: null,
        reasons: row.reasons,
      },
      source,
    );
  const touched = new Set<string>();
  const organizations = await organizationsOf(w, rows, source);
  await insert(tx, 'affiliations', affiliationsOf(w, rows, together, contactOf, organizations.idOf));
  for (const row of rows) {
    if (row.sameAsLine !== null) {
      const id = contactOf.get(row.sameAsLine) ?? null;
      if (id) contactOf.set(row.line, id);
      continue;
    }
    if (!row.contactId || row.verdict === 'look') continue;
    contactOf.set(row.line, row.contactId);
    const done: Done[] = [];
    for (const change of row.changes.filter((c) => c.applied))
      done.push(
        ...(await applyChange(w, row.contactId, row.person!, change, source, zone, organizations.idOf)),
      );
    if (done.length) {
      applied.set(row.line, { changes: done });
      touched.add(row.contactId);
    }
  }
  if (organizations.made.length) {
    const first = rows[0]!.line;
    applied.set(first, { ...applied.get(first), organizations: organizations.made });
  }
  await refreshFound(tx, [...touched]);
  await tx.query(
    `update import_rows i set contact_id = r."contactId", applied = r.applied
     from jsonb_to_recordset($2::jsonb) as r(line int, "contactId" uuid, applied jsonb)
     where i.import_id = $1 and i.line = r.line`,
    [
      record.id,
      JSON.stringify(
        rows.map((r) => ({
          line: r.line,
          contactId: contactOf.get(r.line) ?? null,
          applied: applied.get(r.line) ?? null,
        })),
      ),
    ],
  );
  // The file itself has served its purpose; what it said of each row is kept with the row.
  await update(tx, 'imports', record.id, { state: 'applied', appliedAt: w.now, content: null });
  await audit(
    w,
    'applied an import',
    { kind: 'import', id: record.id },
    { rows: rows.length, file: record.fileName },
  );
}

/** The organizations that rows name, by folded name; those not known yet are made. */
async function organizationsOf(w: Work, rows: readonly Row[], source: string) {
  const idOf = new Map<string, string>();
  const made: string[] = [];
  for (const name of rows.flatMap((r) => r.person?.organizations ?? [])) {
    if (idOf.has(fold(name))) continue;
    const { id, existed } = await organizationNamed(w, name, source);
    idOf.set(fold(name), id);
    if (!existed) made.push(id);
  }
  return { idOf, made };
}

/** What ties everybody new to the organizations their rows name. */
const affiliationsOf = (
  w: Work,
  rows: readonly Row[],
  together: ReadonlyMap<number, PersonRow>,
  contactOf: ReadonlyMap<number, string>,
  idOf: ReadonlyMap<string, string>,
) =>
  rows
    .filter((r) => r.verdict === 'new' || r.verdict === 'look')
    .flatMap((r) =>
      together.get(r.line)!.organizations.map((name) => ({
        id: w.app.ids.id(),
        contactId: contactOf.get(r.line)!,
        organizationId: idOf.get(fold(name))!,
        role: '',
        createdAt: w.now,
      })),
    );

/** Everybody new, with what later rows of the same person add. */
function gather(rows: readonly Row[]): Map<number, PersonRow> {
  const people = new Map<number, PersonRow>();
  const first = new Map<number, number>();
  for (const row of rows) {
    if (row.sameAsLine === null) people.set(row.line, row.person!);
    else {
      const at = first.get(row.sameAsLine) ?? row.sameAsLine;
      first.set(row.line, at);
      const before = people.get(at);
      if (before) people.set(at, absorb(before, row.person!));
    }
  }
  return people;
}

function addPerson(
  w: Work,
  batch: Batch,
  id: string,
  person: PersonRow,
  householdId: string | null,
  source: string,
  record: ImportRecord,
  zone: string,
): void {
  const { app, now } = w;
  batch.add('contacts', {
    id,
    givenName: person.given,
    familyName: person.family,
    birthDate: person.birthDate,
    language: person.language ?? 'en',
    street: person.street,
    postalCode: person.postalCode,
    dietary: person.dietary,
    doNotContact: person.doNotContact ?? false,
    deceasedOn: person.deceasedOn,
    kind: person.kind,
    languages: [],
    householdId,
    ...derived(person),
    source,
    importId: record.id,
    createdAt: now,
    updatedAt: now,
  });
  person.emails.forEach((email, position) => {
    batch.add('contact_emails', {
      id: app.ids.id(),
      contactId: id,
      email,
      emailKey: emailKey(email),
      position,
    });
  });
  person.phones.forEach((phone, position) => {
    batch.add('contact_phones', { id: app.ids.id(), contactId: id, phone, position });
  });
  if (person.kind === 'person') for (const row of keyRows(id, person)) batch.add('contact_keys', row);
  for (const tag of person.tags) batch.add('contact_tags', { contactId: id, tag, at: now });
  const add = (table: string, row: object) => batch.add(table, { id: app.ids.id(), ...row });
  for (const text of person.notes) add('contact_notes', { contactId: id, text, author: source, at: now });
  for (const m of person.memberships) add('memberships', membershipRow(id, m, now));
  for (const e of person.emergencies) add('relationships', emergencyRow(id, e, now));
  if (person.newsletter && (!person.newsletter.granted || record.choices.widenConsent))
    add('consents', consentRow(id, person.newsletter, source, now, zone));
}

const membershipRow = (contactId: string, { until, ...m }: Membership, now: string) => ({
  contactId,
  ...m,
  startsOn: startOf(m.since),
  endsOn: until,
  createdAt: now,
});
const emergencyRow = (contactId: string, e: EmergencyContact, now: string) => ({
  kind: 'emergency',
  toContact: contactId,
  otherName: e.name,
  otherPhone: e.phone,
  createdAt: now,
});
const consentRow = (
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
async function applyChange(
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
    return columns.map((column) => ({
      contactId,
      column,
      before: Object.values(before)[columns.indexOf(column)] ?? null,
      after: values[column],
    }));
  };
  const add = async (table: string, row: object): Promise<Done[]> => {
    const id = app.ids.id();
    await insert(tx, table, { id, contactId, ...row }, 'on conflict do nothing');
    return [{ contactId, table, id }];
  };
  switch (change.field) {
    case 'name':
      return set({ given_name: person.given, family_name: person.family });
    case 'birth date':
      return set({ birth_date: person.birthDate });
    case 'address':
      return set({
        ...(person.street ? { street: person.street } : {}),
        ...(person.postalCode ? { postal_code: person.postalCode } : {}),
      });
    case 'language':
      return set({ language: person.language });
    case 'dietary':
      return set({ dietary: person.dietary });
    case 'do not contact':
      return set({ do_not_contact: person.doNotContact });
    case 'email':
      return add('contact_emails', { email: change.after, emailKey: emailKey(change.after), position: 5 });
    case 'phone':
      return add('contact_phones', { phone: change.after, position: 5 });
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
    case 'died on':
      return set({ deceased_on: person.deceasedOn });
    case 'newsletter': {
      const at = (await first<{ at: string }>(
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
