import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { checkSecret, FolderRefused, inspectFolder, markMoved, secretOf } from './folder.ts';
import { migrate, migrateShared } from './migrate.ts';
import { moveInto } from './moving.ts';
import { holdFolder } from './owner.ts';
import { openPglite } from './pglite.ts';
import { openPostgres } from './postgres.ts';

/** `move FOLDER --to URL`: copies an organization from its folder into a PostgreSQL server, and compares the two. */
export async function moveCommand(folder: string, url: string, say: (text: string) => void): Promise<string> {
  if (!existsSync(join(folder, 'pg'))) throw new FolderRefused(`There is no organization in ${folder}.`);
  const letGo = await holdFolder(folder, null);
  try {
    const secret = secretOf(folder, inspectFolder(folder));
    const from = await openPglite({ folder: join(folder, 'pg') });
    try {
      await migrate(from);
      const to = await openPostgres(url);
      try {
        await migrateShared(to);
        const held = await moveInto(from, to, say, (tx) => checkSecret(tx, secret));
        const paid = held.find((h) => h.table === 'payments')?.amounts.amount ?? 0;
        const { host, pathname } = new URL(url);
        markMoved(folder, `${host}${pathname}`);
        return [
          `${held.length} tables, ${held.reduce((n, h) => n + h.rows, 0).toLocaleString('en')} rows, payments of ${(paid / 100).toLocaleString('en', { minimumFractionDigits: 2 })} in all: the same on both sides.`,
          `From now on start with DATABASE_URL set, and ACOLYTE_SECRET as it stands in ${join(folder, 'secret')}.`,
          `The folder stays as it is and is not opened again, so that nothing is written to both.`,
        ].join('\n');
      } finally {
        await to.close();
      }
    } finally {
      await from.close();
    }
  } finally {
    await letGo();
  }
}

// Run by the command: node dist/server/move.js FOLDER --to URL
if (/(?:move|moveCommand)\.[jt]s$/u.test(process.argv[1] ?? '')) {
  try {
    const { values, positionals } = parseArgs({
      options: { to: { type: 'string' } },
      allowPositionals: true,
    });
    if (!positionals[0] || !values.to || !URL.canParse(values.to))
      throw new Error('Say where to: npm run move -- --to postgres://user@host/database');
    const said = await moveCommand(positionals[0], values.to, (text) => process.stdout.write(`  ${text}\n`));
    process.stdout.write(`${said}\n`);
    process.exit(0);
  } catch (error) {
    process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
    process.exit(1);
  }
}
