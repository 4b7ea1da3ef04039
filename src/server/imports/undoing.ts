import { attributeKeys, attributes } from '#core/contacts/attributes.ts';
import { fullName } from '#core/contacts/names.ts';
import { sayAttribute } from '#core/words/attributes.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import type { Actor, App, Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { setValue } from '../contacts/fields.ts';
import { refreshFound } from '../contacts/keys.ts';
import { resolveContact } from '../contacts/store.ts';
import { first, type Queries, update } from '../db/database.ts';
import { onlyPlannedSql } from '../messages/yearRound.ts';
import type { Applied, Done } from './changing.ts';
import { inLots } from './lots.ts';
import { readImport } from './store.ts';

/** Columns an import may have set; never a name from outside. */
const settable = new Set<string>(attributeKeys.map((key) => attributes[key].column));
const addable = new Set([
  'contact_emails',
  'contact_phones',
  'contact_notes',
  'memberships',
  'consents',
  'relationships',
  'affiliations',
]);
const columnWords = (column: string): string => {
  const key = attributeKeys.find((k) => attributes[k].column === column);
  return key ? sayAttribute(key) : column;
};

const nameOf = ({ givenName, familyName }: { givenName: string; familyName: string }): string =>
  fullName({ given: givenName, family: familyName });

export interface Undone {
  removed: number;
  restored: number;
  kept: string[];
}

/**
 * Takes an import back that is in the state `undoing`, in lots, the last line first: contacts it made go, except those
 * something else hangs on by now; what it changed becomes what it was, except where somebody changed it since. What is
 * left alone is named. Cut short, it goes on where it stopped.
 */
export async function undoImport(app: App, actor: Actor, importId: string): Promise<void> {
  const rows = await app.db.query<{ line: number }>(
    'select line from import_rows where import_id = $1 and applied is not null order by line desc',
    [importId],
  );
  const ties = (
    await app.db.query<{ id: string }>(
      `select d->>'id' as id from import_rows r, jsonb_array_elements(coalesce(r.applied->'changes', '[]')) d
       where r.import_id = $1 and d->>'table' = 'relationships' and d->>'id' is not null`,
      [importId],
    )
  ).map((t) => t.id);
  await inLots(app, actor, async (w, size) => {
    const { doneRows, state } = await readImport(w.tx, importId);
    if (state !== 'undoing') return true;
    const lines = rows.slice(doneRows, doneRows + size).map((r) => r.line);
    if (lines.length) await undoLot(w, importId, lines, ties);
    const done = doneRows + lines.length;
    await update(w.tx, 'imports', importId, { doneRows: done, allRows: rows.length });
    w.afterwards(() => app.announcer.announce(`import ${importId}`, { done, all: rows.length }));
    if (done < rows.length) return false;
    await finish(w, importId);
    return true;
  });
}

/** What was taken back so far is kept with the import, so that it is said also after a restart. */
interface Tally {
  removed: number;
  restored: number;
}

async function undoLot(
  w: Work,
  importId: string,
  lines: readonly number[],
  ties: readonly string[],
): Promise<void> {
  const rows = await w.tx.query<{ applied: Applied }>(
    'select applied from import_rows where import_id = $1 and line = any($2) and applied is not null order by line desc',
    [importId, lines],
  );
  const kept: string[] = [];
  const created = rows.flatMap((r) => (r.applied.created ? [r.applied.created] : []));
  const used = new Map((await whatHangsOn(w.tx, created, ties)).map((u) => [u.id, u]));
  const gone = created.filter((id) => !used.has(id));
  for (const u of used.values())
    kept.push(sayReason(because('undone but for', { name: nameOf(u), things: u.things.join(', ') })));
  // What was planned for their membership goes with it.
  await w.tx.query(`delete from messages m where m.contact_id = any($1) and ${onlyPlannedSql('m')}`, [gone]);
  await w.tx.query('delete from contacts where id = any($1)', [gone]);
  const touched = new Set<string>();
  let restored = 0;
  for (const row of rows)
    for (const done of [...(row.applied.changes ?? [])].reverse()) {
      // A contact merged since has its things with the one it was merged into.
      const contactId = (await resolveContact(w.tx, done.contactId)) ?? done.contactId;
      if (await takeBack(w.tx, contactId, done, kept)) {
        restored += 1;
        touched.add(contactId);
      }
    }
  await refreshFound(w.tx, [...touched]);
  await w.tx.query(
    `update imports set kept = kept || $2::jsonb, tally = jsonb_build_object(
       'removed', coalesce((tally->>'removed')::int, 0) + $3, 'restored', coalesce((tally->>'restored')::int, 0) + $4) where id = $1`,
    [importId, JSON.stringify(kept), gone.length, restored],
  );
}

async function finish(w: Work, importId: string): Promise<void> {
  // Organizations that the file named and nobody is with by now.
  await w.tx.query(
    `delete from contacts c where id in (
         select (o #>> '{}')::uuid from import_rows r, jsonb_array_elements(coalesce(r.applied->'organizations', '[]')) o where r.import_id = $1)
       and not exists (select 1 from affiliations where organization_id = c.id)
       and not exists (select 1 from audit where subject_kind = 'contact' and subject_id = c.id)`,
    [importId],
  );
  await update(w.tx, 'imports', importId, { state: 'undone', undoneAt: w.now });
  const { removed, restored, kept } = await undoneOf(w.tx, importId);
  await record(w, 'import changed', {
    importId,
    how: 'undid an import',
    detail: { removed, restored, kept: kept.length },
  });
}

/** What undoing an import came to. */
export async function undoneOf(tx: Queries, importId: string): Promise<Undone> {
  const row = (await first<{ kept: string[]; tally: Tally | null }>(
    tx,
    'select kept, tally from imports where id = $1',
    [importId],
  ))!;
  return { removed: row.tally?.removed ?? 0, restored: row.tally?.restored ?? 0, kept: row.kept };
}

async function takeBack(tx: Queries, contactId: string, done: Done, kept: string[]): Promise<boolean> {
  if (done.tag) {
    const rows = await tx.query('delete from contact_tags where contact_id = $1 and tag = $2 returning tag', [
      contactId,
      done.tag,
    ]);
    return rows.length > 0;
  }
  if (done.table === 'custom_values') {
    const now = await first<{ value: string; name: string }>(
      tx,
      `select v.value, f.name from custom_values v join custom_fields f on f.id = v.field_id
       where v.contact_id = $1 and v.field_id = $2`,
      [contactId, done.id],
    );
    if (now?.value !== done.after) {
      if (now) kept.push(sayReason(because('changed since', { what: now.name })));
      return false;
    }
    await setValue(tx, contactId, done.id!, done.before as string | null);
    return true;
  }
  if (done.table === 'memberships' && done.column === 'ends_on') {
    const rows = await tx.query(
      'update memberships set ends_on = $2 where id = $1 and ends_on is not distinct from $3 returning id',
      [done.id, done.before, done.after],
    );
    if (!rows.length)
      kept.push(sayReason(because('changed since', { what: sayReason(because('end of a membership')) })));
    return rows.length > 0;
  }
  if (done.table && addable.has(done.table)) {
    const rows = await tx.query(`delete from ${done.table} where id = $1 returning id`, [done.id]);
    return rows.length > 0;
  }
  const column = done.column;
  if (!column || !settable.has(column)) return false;
  const now = await first<{ value: unknown; givenName: string; familyName: string }>(
    tx,
    `select to_jsonb(${column}) as value, given_name, family_name from contacts where id = $1`,
    [contactId],
  );
  if (!now) return false;
  if (JSON.stringify(now.value ?? null) !== JSON.stringify(done.after ?? null)) {
    kept.push(sayReason(because('changed since of', { name: nameOf(now), what: columnWords(column) })));
    return false;
  }
  await update(tx, 'contacts', contactId, { [column]: done.before });
  return true;
}

/** Those of some contacts that something else hangs on by now, with what it is; ties made by the import are nothing else. */
const whatHangsOn = (tx: Queries, ids: readonly string[], ties: readonly string[]) =>
  tx.query<{ id: string; givenName: string; familyName: string; things: string[] }>(
    `select * from (select id, given_name, family_name, array_remove(array[
       case when exists (select 1 from registrations where contact_id = c.id) then 'registrations' end,
       case when exists (select 1 from orders where buyer_contact_id = c.id) then 'orders' end,
       case when exists (select 1 from assignments where contact_id = c.id) then 'shifts' end,
       case when exists (select 1 from payments where contact_id = c.id) then 'payments' end,
       case when exists (select 1 from messages m where m.contact_id = c.id and not (${onlyPlannedSql('m')})) then 'messages' end,
       case when exists (select 1 from survey_responses where contact_id = c.id) then 'survey answers' end,
       case when exists (select 1 from relationships where from_contact = c.id and id <> all($2)) then 'people in their care' end,
       case when exists (select 1 from merges where (kept = c.id or merged = c.id)) then 'a merge' end,
       case when exists (select 1 from audit where subject_kind = 'contact' and subject_id = c.id) then 'changes made by hand' end
     ], null) as things from contacts c where id = any($1)) u where cardinality(things) > 0 order by family_name, given_name, id`,
    [ids, ties],
  );
