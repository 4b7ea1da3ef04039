import type { Queries } from './database.ts';

/** Tables whose rows are never taken away, or only with their floor (contacts). */
const tables = [
  'contacts',
  'events',
  'event_states',
  'orders',
  'order_lines',
  'registrations',
  'registration_states',
  'payments',
  'allocations',
  'postings',
  'entries',
  'signatures',
  'audit',
] as const;

/** Counts of the tables that are there: a version before this one may lack some. */
async function countsOf(tx: Queries): Promise<string> {
  const there = await tx.query<{ name: string }>(
    "select relname as name from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace and relname = any($1)",
    [tables],
  );
  return there
    .map(({ name }) => `select '${name}' as name, count(*) as n from "${name}"`)
    .join(' union all ');
}

/** Writes down how many rows there are at least from now on. */
export async function keepFloors(tx: Queries, now: string): Promise<void> {
  await tx.query(
    `insert into row_floors (name, at_least, at) select name, n, $1 from (${await countsOf(tx)}) c
     on conflict (name) do update set at_least = excluded.at_least, at = excluded.at`,
    [now],
  );
}

/** References that must lead somewhere; the database keeps them, unless a file under it was cut. */
const references = [
  ['registrations', 'order_id', 'orders'],
  ['registrations', 'contact_id', 'contacts'],
  ['orders', 'event_id', 'events'],
  ['payments', 'order_id', 'orders'],
  ['allocations', 'payment_id', 'payments'],
  ['assignments', 'contact_id', 'contacts'],
] as const;

/** What is missing of a database, in words; empty when nothing is. */
export async function missingRows(tx: Queries): Promise<string[]> {
  const short = await tx.query<{ name: string; n: number; atLeast: number }>(
    `select c.name, c.n, f.at_least from (${await countsOf(tx)}) c join row_floors f on f.name = c.name where c.n < f.at_least`,
  );
  const missing = short.map((s) => `${s.name}: ${s.n} of at least ${s.atLeast}`);
  for (const [table, column, other] of references) {
    const [row] = await tx.query<{ n: number }>(
      `select count(*)::int as n from ${table} t where t.${column} is not null
         and not exists (select 1 from ${other} o where o.id = t.${column})`,
    );
    if (row!.n) missing.push(`${row!.n} of ${table} lead to ${other} that are not there`);
  }
  return missing;
}
