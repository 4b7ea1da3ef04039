import type { ImportRow, importStates } from '#contract/imports.ts';
import type { CheckedRow } from '#core/imports/checking.ts';
import type { Change, CurrentContact, ImportChoices, RowOverride } from '#core/imports/importing.ts';
import type { Mapping } from '#core/imports/mapping.ts';
import type { Reason } from '#core/words/reasons.ts';
import { textColumns } from '../contacts/columns.ts';
import { lastWord } from '../contacts/quiet.ts';
import { first, insert, type Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';

export interface ImportRecord {
  id: string;
  fileName: string;
  fileHash: string;
  state: (typeof importStates)[number];
  encoding: string;
  delimiter: string;
  headingLine: number;
  headings: string[];
  mapping: Mapping;
  confidence: number[];
  choices: ImportChoices;
  overrides: Record<string, RowOverride>;
  counts: Record<'new' | 'changes' | 'same' | 'look' | 'rejected', number>;
  doneRows: number;
  allRows: number;
  checkedVersion: number | null;
  mappingFrom: string | null;
  kept: string[];
  createdAt: string;
  appliedAt: string | null;
  undoneAt: string | null;
}

const columns = `id, file_name, file_hash, state, encoding, delimiter, heading_line, headings, mapping, confidence, choices,
  overrides, counts, done_rows, all_rows, checked_version, mapping_from, kept, created_at, applied_at, undone_at`;

/** One import, or null. With `lock`, whoever else would change it waits. */
export const findImport = (tx: Queries, id: string, lock = false): Promise<ImportRecord | null> =>
  first<ImportRecord>(tx, `select ${columns} from imports where id = $1 ${lock ? 'for update' : ''}`, [id]);

/** One import; throws 404. */
export async function readImport(tx: Queries, id: string, lock = false): Promise<ImportRecord> {
  const row = await findImport(tx, id, lock);
  if (!row) throw notFound('This import');
  return row;
}

/** The newest imports. */
export const readImports = (tx: Queries, most: number): Promise<ImportRecord[]> =>
  tx.query<ImportRecord>(`select ${columns} from imports order by created_at desc, id desc limit ${most}`);

/** The imports that were cut short while they were applied or undone. */
export const readCutShort = (tx: Queries): Promise<{ id: string; state: 'applying' | 'undoing' }[]> =>
  tx.query<{ id: string; state: 'applying' | 'undoing' }>(
    "select id, state from imports where state in ('applying', 'undoing') order by created_at, id",
  );

/** The last time that the very same file was applied. */
export const appliedBefore = (tx: Queries, { id, fileHash }: ImportRecord) =>
  first<{ id: string; at: string }>(
    tx,
    "select id, applied_at as at from imports where file_hash = $1 and state = 'applied' and id <> $2 order by applied_at desc limit 1",
    [fileHash, id],
  );

/** The last applied import of a file with the same headings, with what was said of them. */
export const lastLike = (tx: Queries, likeness: string) =>
  first<Pick<ImportRecord, 'id' | 'mapping' | 'choices'>>(
    tx,
    "select id, mapping, choices from imports where likeness = $1 and state = 'applied' order by applied_at desc, id desc limit 1",
    [likeness],
  );

/** Keeps the file as it was brought. */
export const keepContent = (tx: Queries, id: string, base64: string) =>
  tx.query("update imports set content = decode($2, 'base64') where id = $1", [id, base64]);

export const deleteImport = (tx: Queries, id: string) => tx.query('delete from imports where id = $1', [id]);

/** The cells of the first rows. */
export const readSample = (tx: Queries, importId: string): Promise<{ cells: string[] }[]> =>
  tx.query<{ cells: string[] }>('select cells from import_rows where import_id = $1 order by line limit 5', [
    importId,
  ]);

/** A row of the dry run as it is shown, with whom it was taken for. */
export type ShownRow = Omit<
  ImportRow,
  'name' | 'email' | 'phone' | 'contactName' | 'decided' | 'reasons' | 'changes'
> & {
  reasons: Reason[];
  changes: Change[];
  person: { given: string; family: string; emails: string[]; phones: string[] } | null;
  knownGiven: string | null;
  knownFamily: string | null;
};
const shownRow = `select r.line, r.of_line, r.part, r.verdict, r.reasons, r.person, r.cells, r.contact_id, r.same_as_line, r.excluded, r.probability, r.changes,
  c.given_name as known_given, c.family_name as known_family from import_rows r left join contacts c on c.id = r.contact_id`;

/** The rows with a verdict, or all, in which some text stands; and how many there are. */
export async function readShownRows(
  tx: Queries,
  importId: string,
  { verdict, q, limit, offset }: { verdict?: string | undefined; q: string; limit: number; offset: number },
): Promise<{ rows: ShownRow[]; total: number }> {
  const where = `r.import_id = $1 and ($2::text is null or r.verdict = $2)
      and ($3 = '' or position(lower($3) in lower(r.cells::text)) > 0)`;
  const values = [importId, verdict ?? null, q];
  const rows = await tx.query<ShownRow>(
    `${shownRow} where ${where} order by coalesce(r.of_line, r.line), r.line limit ${limit} offset ${offset}`,
    values,
  );
  const total = await first<{ n: number }>(
    tx,
    `select count(*)::int as n from import_rows r where ${where}`,
    values,
  );
  return { rows, total: total!.n };
}

/** The row of a line, or where that is gone the one of the line in the file that it belonged to. */
export const readShownRow = async (
  tx: Queries,
  importId: string,
  line: number,
  ofLine: number,
): Promise<ShownRow> =>
  (await first<ShownRow>(
    tx,
    `${shownRow} where r.import_id = $1 and r.line = any($2) order by r.line = $3 desc limit 1`,
    [importId, [line, ofLine], line],
  ))!;

export const readRejected = (tx: Queries, importId: string) =>
  tx.query<{ line: number; cells: string[]; reasons: Reason[] }>(
    "select coalesce(of_line, line) as line, cells, reasons from import_rows where import_id = $1 and verdict = 'rejected' order by coalesce(of_line, line), import_rows.line",
    [importId],
  );

/** The line of the file that a row stands for. */
export async function lineInFile(tx: Queries, importId: string, line: number): Promise<number> {
  const row = await first<{ line: number }>(
    tx,
    'select coalesce(of_line, line) as line from import_rows where import_id = $1 and line = $2',
    [importId, line],
  );
  if (!row) throw notFound('This row');
  return row.line;
}

/** Takes the rows of a line of the file away; answers what was found of them. */
export const takeRowsOf = (tx: Queries, importId: string, ofLine: number) =>
  tx.query<Pick<StoredCheck, 'line' | 'sameAsLine' | 'householdOfLine'>>(
    `delete from import_rows where import_id = $1 and (line = $2 or of_line = $2)
     returning line, same_as_line, household_of_line`,
    [importId, ofLine],
  );

/** A checked row with what tells that the very same row was applied before. */
export interface StoredCheck extends CheckedRow {
  fingerprint: string | null;
}

/** The contacts that rows became when they were applied before, by fingerprint; merged ones are followed. */
export async function broughtBefore(
  tx: Queries,
  fingerprints: readonly string[],
): Promise<Map<string, string>> {
  if (!fingerprints.length) return new Map();
  const rows = await tx.query<{ fingerprint: string; contactId: string }>(
    `select distinct on (r.fingerprint) r.fingerprint, coalesce(c.merged_into, c.id) as contact_id
     from import_rows r join imports i on i.id = r.import_id join contacts c on c.id = r.contact_id
     where r.fingerprint = any($1) and i.state = 'applied' order by r.fingerprint, i.applied_at, r.line`,
    [fingerprints],
  );
  return new Map(rows.map((r) => [r.fingerprint, r.contactId]));
}

/** The contacts that stated ids stand for; merged ones are followed, unknown ones left out. */
export async function readStated(tx: Queries, ids: readonly string[]): Promise<Map<string, string>> {
  if (!ids.length) return new Map();
  const rows = await tx.query<{ id: string; contactId: string }>(
    'select id, coalesce(merged_into, id) as contact_id from contacts where id = any($1)',
    [ids],
  );
  return new Map(rows.map((r) => [r.id, r.contactId]));
}

/** Organizations that are known, by folded name. */
export async function readOrganizations(tx: Queries, names: readonly string[]): Promise<Map<string, string>> {
  if (!names.length) return new Map();
  const rows = await tx.query<{ name: string; id: string }>(
    `select name_key as name, min(id::text) as id from contacts
     where kind = 'organization' and name_key = any($1) and merged_into is null and erased_at is null group by name_key`,
    [names],
  );
  return new Map(rows.map((r) => [r.name, r.id]));
}

/** Who has each of some emails, by the email as it is compared. */
export async function readByEmail(tx: Queries, emails: readonly string[]): Promise<Map<string, string[]>> {
  if (!emails.length) return new Map();
  const rows = await tx.query<{ email: string; ids: string[] }>(
    `select e.email_key as email, array_agg(distinct c.id) as ids from contact_emails e join contacts c on c.id = e.contact_id
     where e.email_key = any($1) and e.ended_on is null and c.merged_into is null and c.erased_at is null group by e.email_key`,
    [emails],
  );
  return new Map(rows.map((r) => [r.email, r.ids]));
}

/** The file as it was brought. */
export async function readContent(tx: Queries, id: string): Promise<Uint8Array> {
  const row = await first<{ content: string }>(
    tx,
    "select encode(content, 'base64') as content from imports where id = $1",
    [id],
  );
  if (!row) throw notFound('This import');
  return Buffer.from(row.content, 'base64');
}

export async function insertRows(tx: Queries, importId: string, rows: readonly StoredCheck[]): Promise<void> {
  await insert(
    tx,
    'import_rows',
    rows.map((row) => ({ importId, ...row })),
  );
}

export const countRows = async (tx: Queries, importId: string): Promise<ImportRecord['counts']> => {
  const rows = await tx.query<{ verdict: keyof ImportRecord['counts']; n: number }>(
    'select verdict, count(*)::int as n from import_rows where import_id = $1 group by verdict',
    [importId],
  );
  const counts = { new: 0, changes: 0, same: 0, look: 0, rejected: 0 };
  for (const { verdict, n } of rows) counts[verdict] = n;
  return counts;
};

/** What contacts have now, as far as an import may change it. */
export const readCurrent = (tx: Queries, ids: readonly string[]): Promise<CurrentContact[]> =>
  tx.query<CurrentContact>(
    `select c.id, given_name as given, family_name as family, birth_date, street, postal_code, moved_on, language, ${textColumns('c')}, do_not_contact,
       coalesce((select array_agg(email order by position) from contact_emails where contact_id = c.id), '{}') as emails,
       coalesce((select array_agg(phone order by position) from contact_phones where contact_id = c.id), '{}') as phones,
       coalesce((select array_agg(tag order by tag) from contact_tags where contact_id = c.id), '{}') as tags,
       coalesce((select array_agg(text order by at, id) from contact_notes where contact_id = c.id and due_on is null), '{}') as notes,
       ${lastWord('c.id', "'newsletter'")} as newsletter,
       coalesce((select jsonb_agg(jsonb_build_object('number', number, 'since', since, 'level', level, 'until', ends_on) order by created_at, id)
         from memberships where contact_id = c.id), '[]') as memberships,
       coalesce((select jsonb_agg(jsonb_build_object('name', other_name, 'phone', other_phone))
         from relationships where to_contact = c.id and kind = 'emergency' and other_name is not null), '[]') as emergencies,
       coalesce((select array_agg(trim(w.given_name || ' ' || w.family_name) order by r.created_at, r.id)
         from relationships r join contacts w on w.id = r.to_contact
         where r.from_contact = c.id and r.kind = 'guardian' and w.merged_into is null), '{}') as wards,
       coalesce((select array_agg(o.family_name order by a.id) from affiliations a join contacts o on o.id = a.organization_id
         where a.contact_id = c.id and a.until is null), '{}') as organizations, deceased_on,
       coalesce((select jsonb_agg(jsonb_build_object('id', field_id, 'value', value)) from custom_values where contact_id = c.id), '[]') as fields
     from contacts c where c.id = any($1)`,
    [ids],
  );
