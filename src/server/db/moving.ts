import { type Database, first, type Queries } from './database.ts';

/** What one table holds: rows, sums of its columns of amounts, and a sum over the fingerprints of its rows. */
export interface Holding {
  table: string;
  rows: number;
  amounts: Record<string, number>;
  fingerprint: string;
}

/** Says that a move was not made. Nothing was kept on the server. */
class MoveRefused extends Error {}

/** Characters of one lot, about: rows travel as JSON, and some hold files. */
const lotCharacters = 4_000_000;
const largestLot = 2_000;

/** Tables that belong to a place and not to the organization. */
const stays = ['migrations', 'leases', 'secret_mark', 'turnstile'];

const tablesOf = async (db: Queries): Promise<string[]> =>
  (
    await db.query<{ name: string }>(
      `select c.relname as name from pg_class c where c.relkind = 'r' and c.relnamespace = 'public'::regnamespace
       order by c.relname`,
    )
  )
    .map((r) => r.name)
    .filter((name) => !stays.includes(name));

/** Columns that are written; those the database reckons itself are left to it. */
const columnsOf = async (db: Queries, table: string): Promise<string[]> =>
  (
    await db.query<{ name: string }>(
      `select attname as name from pg_attribute where attrelid = $1::regclass and attnum > 0 and not attisdropped
         and attgenerated = '' order by attnum`,
      [`"${table}"`],
    )
  ).map((r) => r.name);

/** What every table holds, reckoned alike on both sides. */
export async function holdings(db: Queries): Promise<Holding[]> {
  const all: Holding[] = [];
  for (const table of await tablesOf(db)) {
    const amounts = (
      await db.query<{ name: string }>(
        `select attname as name from pg_attribute where attrelid = $1::regclass and attnum > 0 and not attisdropped
           and attname ~ '(^|_)(amount|price|balance|paid|total)$' and atttypid in ('int'::regtype, 'bigint'::regtype)`,
        [`"${table}"`],
      )
    ).map((r) => r.name);
    const row = await first<Record<string, string | number | null>>(
      db,
      `select count(*)::int as rows,
         coalesce(sum(('x' || substr(md5(to_jsonb(t)::text), 1, 12))::bit(48)::bigint), 0)::text as fingerprint
         ${amounts.map((name, at) => `, coalesce(sum(t."${name}"), 0)::bigint as a${at}`).join('')}
       from "${table}" t`,
    );
    all.push({
      table,
      rows: Number(row!.rows),
      amounts: Object.fromEntries(amounts.map((name, at) => [name, Number(row![`a${at}`])])),
      fingerprint: String(row!.fingerprint),
    });
  }
  return all;
}

/** Copies the rows of a table as they are, lot by lot in the order they lie in. */
async function copyRows(from: Queries, to: Queries, table: string): Promise<void> {
  const columns = (await columnsOf(from, table)).map((c) => `"${c}"`).join(', ');
  let after = '(0,0)';
  let size = 100;
  for (;;) {
    const lot = await first<{ rows: string | null; last: string | null }>(
      from,
      `select json_agg(to_jsonb(t) - 'ctid_of_row')::text as rows, max(ctid_of_row)::text as last
       from (select ctid as ctid_of_row, ${columns} from "${table}" where ctid > $1::tid order by ctid limit $2) t`,
      [after, size],
    );
    if (!lot?.rows || !lot.last) return;
    await to.query(
      `insert into "${table}" (${columns}) select ${columns} from json_populate_recordset(null::"${table}", $1::json)`,
      [lot.rows],
    );
    after = lot.last;
    size = Math.min(largestLot, Math.max(1, Math.round((size * lotCharacters) / lot.rows.length)));
  }
}

/**
 * Copies an organization into an empty, migrated database of another kind, in one transaction, and compares what both
 * hold. Rules that look at one row at a time would get in the way of rows in any order: references are taken off and put
 * back, which looks through all of them, and triggers rest. Throws MoveRefused when the target is not empty or something
 * differs; nothing is kept then.
 */
export async function moveInto(
  from: Queries,
  to: Database,
  say: (text: string) => void,
  besides: (tx: Queries) => Promise<void>,
): Promise<Holding[]> {
  if (await first(to, 'select 1 as x from organization'))
    throw new MoveRefused('The database on the server holds an organization already. Name an empty one.');
  const held = await holdings(from);
  await to.transaction(async (tx) => {
    const references = await tx.query<{ name: string; on: string; definition: string }>(
      `select conname as name, conrelid::regclass::text as on, pg_get_constraintdef(oid) as definition
       from pg_constraint where contype = 'f' and connamespace = 'public'::regnamespace`,
    );
    for (const r of references) await tx.query(`alter table ${r.on} drop constraint "${r.name}"`);
    for (const { table, rows } of held) {
      await tx.query(`alter table "${table}" disable trigger user`);
      // Rows that a migration brought are those of the folder too.
      await tx.query(`delete from "${table}"`);
      await copyRows(from, tx, table);
      await tx.query(`alter table "${table}" enable trigger user`);
      if (rows) say(`${table}: ${rows.toLocaleString('en')} rows`);
    }
    for (const r of references)
      await tx.query(`alter table ${r.on} add constraint "${r.name}" ${r.definition}`);
    const sequences = await from.query<{ name: string; last: number | null }>(
      "select sequencename as name, last_value as last from pg_sequences where schemaname = 'public'",
    );
    for (const { name, last } of sequences)
      if (last !== null) await tx.query('select setval($1::regclass, $2)', [`"${name}"`, last]);
    const there = await holdings(tx);
    const different = held.filter(
      (h) => JSON.stringify(h) !== JSON.stringify(there.find((t) => t.table === h.table)),
    );
    if (different.length)
      throw new MoveRefused(
        `What arrived is not what was sent (${different.map((d) => d.table).join(', ')}). Nothing was kept on the server.`,
      );
    await besides(tx);
  });
  await to.query('analyze');
  return held;
}
