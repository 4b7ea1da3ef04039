import { type Described, keysOf, prepare } from '#core/contacts/comparing.ts';
import { searchText } from '#core/contacts/search.ts';
import { insert, type Queries } from '../db/database.ts';
import { nameKey } from './store.ts';

/** The rows under which a contact is found by comparison. */
export const keyRows = (contactId: string, of: Described): { key: string; contactId: string }[] =>
  keysOf(prepare(of)).map((key) => ({ key, contactId }));

/** What is derived from a contact's name and reach, for the contact's own row. */
export const derived = (of: Pick<Described, 'given' | 'family' | 'emails' | 'phones'>) => ({
  nameKey: nameKey(of),
  searchText: searchText(of),
});

interface Known extends Described {
  id: string;
  kind: string;
}
const knownSql = `select c.id, c.kind, given_name as given, family_name as family, birth_date, postal_code, street,
  coalesce((select array_agg(email_key order by position) from contact_emails where contact_id = c.id), '{}') as emails,
  coalesce((select array_agg(phone order by position) from contact_phones where contact_id = c.id), '{}') as phones
  from contacts c`;

/**
 * Works out again what contacts are found by, after their names or reach changed. A contact that was merged into
 * another is found by nothing.
 */
export async function refreshFound(tx: Queries, ids: readonly string[]): Promise<void> {
  if (!ids.length) return;
  await tx.query('delete from contact_keys where contact_id = any($1)', [ids]);
  const people = await tx.query<Known>(
    `${knownSql} where c.id = any($1) and c.merged_into is null and c.erased_at is null`,
    [ids],
  );
  await insert(
    tx,
    'contact_keys',
    // An organization is never taken for a person.
    people.filter((p) => p.kind === 'person').flatMap((p) => keyRows(p.id, p)),
    'on conflict do nothing',
  );
  await tx.query(
    `update contacts c set name_key = r."nameKey", search_text = r."searchText"
     from jsonb_to_recordset($1::jsonb) as r(id uuid, "nameKey" text, "searchText" text) where c.id = r.id`,
    [JSON.stringify(people.map((p) => ({ id: p.id, ...derived(p) })))],
  );
  await tx.query(
    "update contacts set search_text = '', name_key = '' where id = any($1) and merged_into is not null",
    [ids],
  );
}

/** Goes up when keys, or what names are found by, are made otherwise than before. */
const keysVersion = 1;

/** Makes the keys of all contacts anew where they were made by another version. */
export async function ensureKeysOfVersion(tx: Queries): Promise<void> {
  const [model] = await tx.query<{ keysVersion: number }>('select keys_version from matching_model');
  if (model?.keysVersion === keysVersion) return;
  await ensureKeys(tx);
  await tx.query('update matching_model set keys_version = $1', [keysVersion]);
}

/** Gives keys to contacts that have none, or have those of an older version, as after an upgrade. */
export async function ensureKeys(tx: Queries): Promise<void> {
  let after = '00000000-0000-0000-0000-000000000000';
  for (;;) {
    const missing = await tx.query<{ id: string }>(
      // Folded by a version that left letters like œ as they were, they are found by a name nobody looks for.
      `select id from contacts c where id > $1 and kind = 'person' and merged_into is null and erased_at is null
         and (name_key ~ '[\u00df-\u024f]' or not exists (select 1 from contact_keys k where k.contact_id = c.id))
       order by id limit 1000`,
      [after],
    );
    if (!missing.length) return;
    after = missing.at(-1)!.id;
    await refreshFound(
      tx,
      missing.map((m) => m.id),
    );
  }
}
