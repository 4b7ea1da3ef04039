import type { Database } from './database.ts';

/**
 * Cleans and measures the tables that changed a lot, by the thresholds PostgreSQL's autovacuum uses (50 rows and a tenth
 * of the table for measuring, a fifth for cleaning): an embedded database has nobody else to do it, and without figures
 * it plans badly once tables are large. Answers the tables it saw to.
 */
export async function vacuumTables(db: Pick<Database, 'query' | 'shared'>): Promise<string[]> {
  // A server sees to its tables by itself.
  if (db.shared) return [];
  await db.query('select pg_stat_force_next_flush()');
  const due = await db.query<{ name: string; clean: boolean }>(
    `select c.relname as name, s.n_dead_tup > 50 + 0.2 * greatest(c.reltuples, 0) as clean
     from pg_class c join pg_stat_user_tables s on s.relid = c.oid
     where c.relkind = 'r' and (s.n_mod_since_analyze > 50 + 0.1 * greatest(c.reltuples, 0)
       or s.n_dead_tup > 50 + 0.2 * greatest(c.reltuples, 0) or (c.reltuples < 0 and pg_relation_size(c.oid) > 0))
     order by c.relname`,
  );
  for (const { name, clean } of due) {
    // One statement holds an embedded database until it ends: measured and cleaned in steps, so that others get a turn.
    for (const columns of await measurable(db, name))
      await db.query(`analyze "${name}" (${columns.map((c) => `"${c}"`).join(', ')})`);
    if (clean) await db.query(`vacuum "${name}"`);
  }
  // What was added to the search lately waits in a list that every search reads; it is sorted in.
  await db.query(
    `select gin_clean_pending_list(c.oid::regclass) from pg_class c join pg_am a on a.oid = c.relam
     where a.amname = 'gin' and c.relkind = 'i'`,
  );
  return due.map((d) => d.name);
}

/** Columns measured in one go. */
const columnsAtOnce = 6;

/** The columns of a table that plans are made by, a few at a time: what a document or a file holds is never asked by plan. */
async function measurable(db: Pick<Database, 'query'>, table: string): Promise<string[][]> {
  const columns = await db.query<{ name: string }>(
    `select attname as name from pg_attribute
     where attrelid = $1::regclass and attnum > 0 and not attisdropped
       and atttypid not in ('json'::regtype, 'jsonb'::regtype, 'bytea'::regtype, 'tsvector'::regtype) order by attnum`,
    [`"${table}"`],
  );
  return Array.from({ length: Math.ceil(columns.length / columnsAtOnce) }, (_, n) =>
    columns.slice(n * columnsAtOnce, (n + 1) * columnsAtOnce).map((c) => c.name),
  );
}
