import type { Queries } from '../db/database.ts';

/**
 * The names of roles as they are spelled in the register, in the order asked; what nobody had a name for before is added, asking
 * nothing of anybody.
 */
export async function rolesNamed(tx: Queries, names: readonly string[]): Promise<string[]> {
  await tx.query(
    `insert into roles (name) select distinct on (lower(n.name)) n.name from unnest($1::text[]) with ordinality as n (name, at)
     order by lower(n.name), n.at on conflict do nothing`,
    [names],
  );
  const rows = await tx.query<{ name: string }>(
    `select r.name from unnest($1::text[]) with ordinality as n (name, at) join roles r on lower(r.name) = lower(n.name) order by n.at`,
    [names],
  );
  return rows.map((r) => r.name);
}
