import { mkdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { standingClock } from '#core/time/clock.ts';
import { foundOrganization } from '#demo/organization.ts';
import { storeDemoClock } from '#server/app/clocks.ts';
import type { Database } from '#server/db/database.ts';
import { makeIds } from '#server/db/ids.ts';
import { migrate } from '#server/db/migrate.ts';
import { openPglite } from '#server/db/pglite.ts';
import { beginning, readTemplate, templateFolder, templatePath } from './founded.ts';

/** Founds the organization that every test begins with, in an empty database that was migrated. */
export async function found(db: Database): Promise<void> {
  const ids = makeIds(standingClock(beginning));
  await db.transaction((tx) => foundOrganization({ tx, now: beginning, app: { ids } as never }));
  await storeDemoClock(db, { standsAt: beginning, movingTo: null });
}

/** Makes the data folder that every test starts from, once a run: migrated, with the organization founded. */
export default async function setup(): Promise<void> {
  await make(false);
}

/** The same where there is none yet, as when browser tests run by themselves. */
export const makeWhereMissing = (): Promise<void> => make(true);

async function make(keep: boolean): Promise<void> {
  const db = await openPglite({});
  await migrate(db);
  await found(db);
  // Databases to make others from are of no use here, and half of all files.
  await db.query(
    "update pg_database set datistemplate = false, datallowconn = true where datname in ('template0', 'template1')",
  );
  for (const name of ['template0', 'template1']) await db.query(`drop database ${name}`);
  await db.query('checkpoint');
  mkdirSync(dirname(templatePath), { recursive: true });
  // Two may make it at once: each beside the other, and what is there is always whole.
  const own = `${templateFolder}-${process.pid}`;
  writeFileSync(`${own}.tar`, Buffer.from(await (await db.dump()).arrayBuffer()));
  await db.close();
  rmSync(own, { recursive: true, force: true });
  mkdirSync(own);
  renameSync(`${own}.tar`, templatePath);
  const folder = await openPglite({ folder: join(own, 'pg'), template: readTemplate() });
  await folder.close();
  if (!keep) rmSync(templateFolder, { recursive: true, force: true });
  try {
    renameSync(own, templateFolder);
  } catch {
    // Somebody else was there first with the same.
    rmSync(own, { recursive: true, force: true });
  }
}
