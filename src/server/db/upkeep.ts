import type { Database } from './database.ts';

/**
 * Cleans and measures the tables that changed a lot, by the thresholds PostgreSQL's autovacuum uses (50 rows and a tenth
 * of the table for measuring, a fifth for cleaning): an embedded database has nobody else to do it, and without figures
 * it plans badly once tables are large. Answers the tables it saw to.
 */
export async function keepUp(db: Pick<Database, 'query'>): Promise<string[]> {
  await db.query('select pg_stat_force_next_flush()');
  const due = await db.query<{ name: string; clean: boolean }>(
    `select c.relname as name, s.n_dead_tup > 50 + 0.2 * greatest(c.reltuples, 0) as clean
     from pg_class c join pg_stat_user_tables s on s.relid = c.oid
     where c.relkind = 'r' and (s.n_mod_since_analyze > 50 + 0.1 * greatest(c.reltuples, 0)
       or s.n_dead_tup > 50 + 0.2 * greatest(c.reltuples, 0) or (c.reltuples < 0 and pg_relation_size(c.oid) > 0))
     order by c.relname`,
  );
  for (const { name, clean } of due) await db.query(`${clean ? 'vacuum (analyze)' : 'analyze'} "${name}"`);
  // What was added to the search lately waits in a list that every search reads; it is sorted in.
  await db.query(
    `select gin_clean_pending_list(c.oid::regclass) from pg_class c join pg_am a on a.oid = c.relam
     where a.amname = 'gin' and c.relkind = 'i'`,
  );
  return due.map((d) => d.name);
}
