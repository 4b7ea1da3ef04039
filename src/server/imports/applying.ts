import { fold } from '#core/contacts/names.ts';
import type { CheckedRow } from '#core/imports/checking.ts';
import { absorb, isGuardian, type PersonRow } from '#core/imports/rows.ts';
import type { Actor, App, Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { textRow } from '../contacts/columns.ts';
import { derived, keyRows, refreshFound } from '../contacts/keys.ts';
import { recordPair } from '../contacts/pairs.ts';
import { organizationNamed } from '../contacts/ties.ts';
import { insert, update } from '../db/database.ts';
import { theOrganization } from '../staff/store.ts';
import { Batch } from './batch.ts';
import {
  type Applied,
  applyChange,
  consentRow,
  type Done,
  emailRow,
  emergencyRow,
  membershipRow,
  phoneRow,
} from './changing.ts';
import { Homes } from './homes.ts';
import { inLots } from './lots.ts';
import { type ImportRecord, readImport } from './store.ts';

type Row = Pick<
  CheckedRow,
  | 'line'
  | 'ofLine'
  | 'part'
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

/** Everything known of an import while it is applied: all of its rows, and who became whom. */
interface Applying {
  file: ImportRecord;
  rows: readonly Row[];
  /** How many rows, in their order, are done. */
  done: number;
  together: ReadonlyMap<number, PersonRow>;
  contactOf: Map<number, string>;
  known: ReadonlyMap<number, string | null>;
  guardians: ReadonlyMap<number | null, Row>;
}

/** Rows read at once; more would hold up whoever else asks. */
const readAtOnce = 1000;

async function readRows(app: App, importId: string): Promise<(Row & { became: string | null })[]> {
  const rows: (Row & { became: string | null })[] = [];
  for (let after = -1; ; ) {
    const part = await app.db.query<Row & { became: string | null }>(
      `select line, of_line, part, verdict, person, contact_id, same_as_line, household_of, household_of_line, changes, reasons, probability,
         case when applied is not null or verdict in ('changes', 'same') then contact_id end as became
       from import_rows where import_id = $1 and verdict <> 'rejected' and line > $2 order by line limit ${readAtOnce}`,
      [importId, after],
    );
    rows.push(...part);
    if (part.length < readAtOnce) return rows;
    after = part.at(-1)!.line;
    await new Promise((resolve) => setImmediate(resolve));
  }
}

/**
 * Applies an import that is in the state `applying`: new people become contacts, known ones get what the choices allow,
 * rows that need a look become contacts of their own and are put up for a decision. It goes in lots, each kept with what
 * it did and how far it came; cut short, it goes on where it stopped.
 */
export async function applyImport(app: App, actor: Actor, importId: string): Promise<void> {
  const file = await readImport(app.db, importId);
  const rows = await readRows(app, importId);
  const applying: Applying = {
    file,
    rows,
    done: file.doneRows,
    together: gather(rows),
    contactOf: new Map(),
    known: new Map(rows.filter((r) => r.verdict !== 'look').map((r) => [r.line, r.contactId])),
    guardians: new Map(rows.filter((r) => r.part === 'guardian').map((r) => [r.ofLine, r])),
  };
  for (const row of rows.slice(0, file.doneRows))
    if (row.became) applying.contactOf.set(row.line, row.became);
  await inLots(app, actor, async (w, size) => {
    const { doneRows, state } = await readImport(w.tx, importId);
    if (state !== 'applying') return true;
    const lot = rows.slice(doneRows, doneRows + size);
    if (lot.length) await applyLot(w, applying, lot);
    const done = doneRows + lot.length;
    await update(w.tx, 'imports', importId, { doneRows: done });
    w.afterwards(() => app.announcer.announce(`import ${importId}`, { done, all: rows.length }));
    if (done < rows.length) return false;
    // The file itself has served its purpose; what it said of each row is kept with the row.
    await update(w.tx, 'imports', importId, { state: 'applied', appliedAt: w.now, content: null });
    await record(w, 'import changed', {
      importId,
      how: 'applied an import',
      detail: { rows: rows.length, file: file.fileName },
    });
    return true;
  });
}

/** Applies some rows, in the order of the file, in the caller's transaction. */
async function applyLot(w: Work, applying: Applying, rows: readonly Row[]): Promise<void> {
  const { tx } = w;
  const { file, together, contactOf, known, guardians } = applying;
  const { zone } = await theOrganization(tx);
  const source = `import of ${file.fileName}`;
  const applied = new Map<number, Applied>();
  const batch = new Batch();
  const looks: { contactId: string; row: Row }[] = [];
  const at = (line: number | null) =>
    line === null ? null : (contactOf.get(line) ?? known.get(line) ?? null);
  const homeOf = (row: Row): string | null => {
    // Brothers and sisters live together by way of the guardian whom an earlier line named, or who is known.
    const guardian = guardians.get(row.line);
    const theirs = guardian?.person?.street ? at(guardian.sameAsLine ?? guardian.line) : null;
    return row.householdOf ?? at(row.householdOfLine) ?? theirs;
  };
  const homes = new Homes(w);
  await homes.read(rows.map(homeOf).filter((id) => id !== null));

  for (const row of rows) {
    const isNew = row.verdict === 'new' || row.verdict === 'look';
    if (!isNew) continue;
    const id = w.app.ids.id();
    contactOf.set(row.line, id);
    applied.set(row.line, { created: id });
    const home = homeOf(row);
    const person = together.get(row.line)!;
    const householdId = home ? homes.of(home) : null;
    addPerson(w, batch, id, person, householdId, source, file, zone);
    if (row.verdict === 'look' && row.contactId) looks.push({ contactId: id, row });
    homes.join(id, person.family, householdId);
  }
  await homes.write(batch);
  await batch.write(tx);
  for (const { contactId, row } of looks)
    await recordPair(
      w,
      contactId,
      {
        candidateId: row.contactId!,
        outcome: 'look',
        probability: row.probability ?? 0.5,
        findings: row.reasons.slice(0, 6).map((reason) => ({ field: 'given', reason, bits: 0 })),
        held: null,
        reasons: row.reasons,
      },
      source,
    );
  const touched = new Set<string>();
  const organizations = await organizationsOf(w, rows, together, source);
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
  for (const [line, tie] of await tieGuardians(w, rows, contactOf)) {
    const before = applied.get(line);
    applied.set(line, { ...before, changes: [...(before?.changes ?? []), tie] });
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
      file.id,
      JSON.stringify(
        rows.map((r) => ({
          line: r.line,
          contactId: contactOf.get(r.line) ?? null,
          applied: applied.get(r.line) ?? null,
        })),
      ),
    ],
  );
}

/** Ties guardians to the children whose rows name them; those tied already are left. Says what was tied, by line. */
async function tieGuardians(
  w: Work,
  rows: readonly Row[],
  contactOf: ReadonlyMap<number, string>,
): Promise<[number, Done][]> {
  const done: [number, Done][] = [];
  for (const row of rows) {
    const child = isGuardian(row.part) ? contactOf.get(row.ofLine!) : undefined;
    const guardian = contactOf.get(row.line);
    const refused = row.changes.some((c) => c.field === 'guardian of' && !c.applied);
    if (!child || !guardian || child === guardian || refused) continue;
    const [tied] = await w.tx.query<{ id: string }>(
      `insert into relationships (id, kind, from_contact, to_contact, created_at) values ($1, 'guardian', $2, $3, $4)
       on conflict (from_contact, to_contact) where kind = 'guardian' do nothing returning id`,
      [w.app.ids.id(), guardian, child, w.now],
    );
    if (tied) done.push([row.line, { contactId: guardian, table: 'relationships', id: tied.id }]);
  }
  return done;
}

/** The organizations that rows name, by folded name; those not known yet are made. */
async function organizationsOf(
  w: Work,
  rows: readonly Row[],
  together: ReadonlyMap<number, PersonRow>,
  source: string,
) {
  const idOf = new Map<string, string>();
  const made: string[] = [];
  const named = rows.flatMap((r) => [
    ...(r.person?.organizations ?? []),
    ...(together.get(r.line)?.organizations ?? []),
  ]);
  for (const name of named) {
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
  file: ImportRecord,
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
    ...textRow(person),
    doNotContact: person.doNotContact ?? false,
    deceasedOn: person.deceasedOn,
    kind: person.kind,
    languages: [],
    householdId,
    ...derived(person),
    source,
    importId: file.id,
    createdAt: now,
    updatedAt: now,
  });
  person.emails.forEach((email, position) => {
    batch.add('contact_emails', { id: app.ids.id(), contactId: id, ...emailRow(person, email, position) });
  });
  person.phones.forEach((phone, position) => {
    batch.add('contact_phones', { id: app.ids.id(), contactId: id, ...phoneRow(person, phone, position) });
  });
  if (person.kind === 'person') for (const row of keyRows(id, person)) batch.add('contact_keys', row);
  for (const tag of person.tags) batch.add('contact_tags', { contactId: id, tag, at: now });
  for (const f of person.fields) batch.add('custom_values', { contactId: id, fieldId: f.id, value: f.value });
  const add = (table: string, row: object) => batch.add(table, { id: app.ids.id(), ...row });
  for (const text of person.notes) add('contact_notes', { contactId: id, text, author: source, at: now });
  for (const m of person.memberships) add('memberships', membershipRow(id, m, now));
  for (const e of person.emergencies) add('relationships', emergencyRow(id, e, now));
  if (person.newsletter && (!person.newsletter.granted || file.choices.widenConsent))
    add('consents', consentRow(id, person.newsletter, source, now, zone));
}
