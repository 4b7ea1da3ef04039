import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Database } from './database.ts';
import { projectRoot } from './root.ts';

export interface Migration {
  name: string;
  sql: string;
}

/** The numbered migrations of the product, in order. */
export function shippedMigrations(): Migration[] {
  const folder = join(projectRoot(), 'src/server/db/migrations');
  return readdirSync(folder)
    .filter((f) => f.endsWith('.sql'))
    .sort()
    .map((name) => ({ name, sql: readFileSync(join(folder, name), 'utf8') }));
}

/** What a migration was before, where folders went through an earlier form of it; a later migration puts right what differs. */
const formerly: Record<string, string> = {
  '0048_books.sql': '62922124e0863d5cff523348872c943fa247fa115425a27633ab8d757e04cb28',
  '0069_year_round.sql': '9bd71ea7f08dc2fb61f4509e26d573155ee254516e45bddd0f7439b0bd29dbd4',
};

const checksum = (sql: string): string => createHash('sha256').update(sql).digest('hex');

/**
 * Applies what has not been applied yet, each migration in one transaction with its record. Throws when an applied
 * migration was changed or is missing, because the database would then not be what the code expects.
 */
export async function migrate(
  db: Database,
  migrations: readonly Migration[] = shippedMigrations(),
): Promise<number> {
  await db.script(
    'create table if not exists migrations (name text primary key, checksum text not null, applied_at timestamptz not null default now())',
  );
  const applied = await db.query<{ name: string; checksum: string }>(
    'select name, checksum from migrations order by name',
  );
  for (const [at, row] of applied.entries()) {
    const shipped = migrations[at];
    if (shipped?.name !== row.name)
      throw new Error(
        `The database has migration ${row.name}, which this version of Acolyte does not know at that place.`,
      );
    if (row.checksum !== checksum(shipped.sql) && row.checksum !== formerly[row.name])
      throw new Error(
        `Migration ${row.name} was changed after it had been applied. Put it back and add a new one.`,
      );
  }
  const missing = migrations.slice(applied.length);
  for (const { name, sql } of missing)
    await db.script(
      // Two processes that start at once on one server come one after the other; the second finds it done.
      `begin;lock table migrations in access exclusive mode;\n${sql}\n;insert into migrations (name, checksum) values ('${name.replaceAll("'", "''")}', '${checksum(sql)}');\ncommit;`,
    );
  return missing.length;
}

/** Applies migrations where other processes may be starting at the same time: who finds one just done looks again. */
export async function migrateShared(db: Database): Promise<void> {
  for (let tries = 1; ; tries += 1)
    try {
      await migrate(db);
      return;
    } catch (error) {
      if (tries === 4) throw error;
      await new Promise((resolve) => setTimeout(resolve, 250));
    }
}
